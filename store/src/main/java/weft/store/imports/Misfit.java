package weft.store.imports;

/**
 * A cell of a file that can't be stored as it is.
 *
 * @param line the line of the file on which its row begins, from 1
 * @param column the name of its column; empty for a cell beyond the headings
 * @param cell what stands in it
 * @param message what is wrong, in a plain sentence
 */
public record Misfit(long line, String column, String cell, String message) {}
