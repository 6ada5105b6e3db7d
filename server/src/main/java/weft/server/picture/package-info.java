/** Pictures: taken in, turned upright, scaled, and shown. */
package weft.server.picture;
