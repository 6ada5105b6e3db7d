/** What happens to tables and records, carried to every server by PostgreSQL. Start at {@link weft.store.event.Changes}. */
package weft.store.event;
