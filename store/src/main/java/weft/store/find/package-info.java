/** Finding and ordering records in PostgreSQL. Start at {@link weft.store.find.Views}. */
package weft.store.find;
