/**
 * The entry engine: decides everything about an entry from what was typed, for typing and for saving alike. Start at
 * {@link weft.core.entry.EntryEngine}.
 */
package weft.core.entry;
