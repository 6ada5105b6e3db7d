package weft.core.sentence;

/**
 * A part of a sentence, so that it can be drawn by what it is.
 *
 * @param text as it stands in the sentence
 * @param about the column that a field's name means; empty otherwise
 */
public record Piece(Role kind, String text, String about) {

    /** What a part of a sentence is. */
    public enum Role {
        /** A word of the grammar, or a sign, with the blanks around it. */
        WORD,
        /** What the rule does, such as "brings". */
        DOES,
        /** What it does where it stops. */
        STOPS,
        /** What it does where it asks. */
        ASKS,
        /** A field by its label, or a column of the form's table. */
        FIELD,
        /** A table, a column of another table, a form, or a button. */
        NAME,
        /** A value, a number or a pattern. */
        VALUE,
        /** A formula. */
        FORMULA,
        /** Words that people read. */
        TEXT
    }
}
