/**
 * Stored records as everything inside the house knows them: typed values under a row number. {@link
 * weft.core.record.StoredRows} is what the entry engine may ask for; the store answers.
 */
package weft.core.record;
