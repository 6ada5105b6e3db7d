/**
 * Records found, listed, stepped through and exported over HTTP. {@code FindRequest} reads what a request asks for; start at
 * {@code FindApi}.
 */
package weft.server.find;
