/** Tables and their columns as a builder defines them, and the names they get. Start at {@link weft.core.table.Table}. */
package weft.core.table;
