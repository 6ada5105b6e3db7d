/**
 * What is keyed twice: {@link weft.core.twice.Twice} says which papers and how, {@link weft.core.twice.Comparison} whether two
 * keyings say the same, {@link weft.core.twice.Standing} how far a record has come, and {@link weft.core.twice.AtOnce} what is said
 * of a field while it is keyed again.
 */
package weft.core.twice;
