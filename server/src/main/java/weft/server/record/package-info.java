/**
 * Stored records over HTTP: read, deleted, their history, those removed. {@link weft.server.record.RecordJson} is a
 * record in the API's shape, wherever one is answered; start at {@code RecordsApi}.
 */
package weft.server.record;
