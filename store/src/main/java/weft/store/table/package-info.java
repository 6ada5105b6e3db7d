/** Tables: their definitions in schema {@code weft} and the real SQL tables in schema {@code records}. */
package weft.store.table;
