/**
 * Guessing what kind of values a column of a file holds. Every cell rules out the shapes that it cannot be, so that a
 * file is gone through once and nothing of it is kept. Start at {@link weft.core.guess.ColumnGuesser}; a {@code Shape}
 * is one hypothesis.
 */
package weft.core.guess;
