/**
 * The one way of an entry from what was typed to what is stored. {@link weft.store.entry.Saving}, where to start, assesses
 * it with the engine, asks, has it written and follows it with its steps; {@link weft.store.entry.Rehearsing} does the same
 * and keeps nothing. Neither knows where an entry comes from, so whatever brings one goes this way.
 */
package weft.store.entry;
