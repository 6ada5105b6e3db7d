/** Files of rows brought in over HTTP. */
package weft.server.imports;
