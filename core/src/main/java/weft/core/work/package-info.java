/**
 * How keying goes, in figures: {@link weft.core.work.Classes} of seconds, {@link weft.core.work.Share} with its interval, and what
 * they {@linkplain weft.core.work.Suggestions suggest}.
 */
package weft.core.work;
