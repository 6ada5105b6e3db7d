/** Files of rows brought in: kept, looked at, and loaded into a table of their own. Start at {@link weft.store.imports.Imports}. */
package weft.store.imports;
