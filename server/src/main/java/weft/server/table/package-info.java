/** Tables over HTTP. */
package weft.server.table;
