/** Records: saving to the next free row, reading page by page, changing and deleting. Start at {@link weft.store.record.Records}. */
package weft.store.record;
