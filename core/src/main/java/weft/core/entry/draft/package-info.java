/**
 * What is said about an entry while it is typed: what was typed ({@link weft.core.entry.draft.Draft}, where to start), what
 * formulas may name of it, how its fields stand, what is found, and what was done with it. The stages of the engine pass
 * these on; none of them decides anything itself.
 */
package weft.core.entry.draft;
