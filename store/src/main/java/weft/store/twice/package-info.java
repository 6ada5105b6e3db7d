/**
 * Papers that are keyed a second time, kept beside the records that their first keying made. Start at {@link
 * weft.store.twice.Papers}.
 */
package weft.store.twice;
