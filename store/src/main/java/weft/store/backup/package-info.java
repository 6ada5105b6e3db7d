/**
 * A whole database in one file, and the way back. The file is a zip archive of two parts: {@code database.dump}, as pg_dump
 * writes it in its custom format, and {@code weft.json}, which says what is in it, so that what was restored can be held
 * against it. Start at {@link weft.store.backup.Backup}.
 */
package weft.store.backup;
