/** Entries and records over HTTP. Start at {@link weft.server.record.RecordsApi}. */
package weft.server.record;
