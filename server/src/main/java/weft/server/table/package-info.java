/**
 * Tables over HTTP: made, looked into, changed. A column that is asked for and one that is answered are two types.
 * Start at {@code TablesApi}.
 */
package weft.server.table;
