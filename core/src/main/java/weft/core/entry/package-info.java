/**
 * The entry engine: decides everything about an entry from what was typed, for typing and for saving alike. Start at
 * {@link weft.core.entry.EntryEngine}; {@code Reckoning} is one assessment, from field to field in the plan's order, and
 * hands what it found to the checks.
 */
package weft.core.entry;
