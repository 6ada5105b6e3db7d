/**
 * Tables: their definitions in schema {@code weft} and the real SQL tables in schema {@code records}, with real types
 * and constraints that hold whoever writes. Start at {@link weft.store.table.Tables}; {@link weft.store.table.Columns}
 * changes them once the stored values bear it.
 */
package weft.store.table;
