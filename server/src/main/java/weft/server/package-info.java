/** The HTTP server: the API under {@code /api}, live events, the web app. Start at {@link weft.server.WeftServer}. */
package weft.server;
