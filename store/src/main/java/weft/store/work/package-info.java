/** How keying goes: counted in memory, added up in the database, and told. Start at {@link weft.store.work.WorkBook}. */
package weft.store.work;
