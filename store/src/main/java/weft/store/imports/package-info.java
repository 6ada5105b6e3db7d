/**
 * Files of rows brought in: kept in pieces, looked at with these or those columns in mind, and loaded into a table of
 * their own by COPY, all or nothing. No file is held in memory as a whole. Start at {@link
 * weft.store.imports.Imports}.
 */
package weft.store.imports;
