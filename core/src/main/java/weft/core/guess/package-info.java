/** Guessing what kind of values a column of a file holds. Start at {@link weft.core.guess.ColumnGuesser}. */
package weft.core.guess;
