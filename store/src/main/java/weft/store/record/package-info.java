/**
 * Records: written, read and deleted as typed values; only history keeps them as JSON. {@link
 * weft.store.record.EntryWriter}, where to start, is the one way to write; entries that wait for one table go together
 * ({@code Lanes}) in one statement ({@code SaveSql}), and what the database refuses is read by {@code Refusal}.
 */
package weft.store.record;
