/**
 * Files of rows brought in over HTTP: looked at as often as one likes, then loaded. Start at {@code ImportsApi}.
 */
package weft.server.imports;
