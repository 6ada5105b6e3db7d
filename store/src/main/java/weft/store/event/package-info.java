/**
 * What happens to tables, forms and records, carried to every server by PostgreSQL. What changes something says so
 * within its own transaction ({@code Telling}), so that nothing is told that is not kept; {@link
 * weft.store.event.Changes}, where to start, hears it everywhere.
 */
package weft.store.event;
