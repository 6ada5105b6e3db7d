/**
 * Pictures over HTTP: taken in, turned upright, scaled, and shown. Start at {@code PicturesApi}.
 */
package weft.server.picture;
