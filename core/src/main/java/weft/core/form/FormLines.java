package weft.core.form;

import java.util.List;
import weft.core.rule.Rules;

/**
 * Lines in a form: the records of another table that link to the record in the form, one a line.
 *
 * @param label what people read above them
 * @param table the name of the table that the lines are records of
 * @param by the name of its column that links to the form's record
 * @param fields its fields, as columns
 * @param blank how many blank lines a new entry begins with, 1 to 50
 * @param least how many lines an entry has at least; 0 for none
 * @param most how many it has at most; 0 for any number
 * @param alike the columns in which no two lines of a record may be alike; empty where they may
 * @param belong whether they are one thing with the record, and are removed and put back with it
 * @param rules what is declared about each line
 */
public record FormLines(
        String id,
        String label,
        String table,
        String by,
        List<Field> fields,
        int blank,
        int least,
        int most,
        List<String> alike,
        boolean belong,
        Rules rules)
        implements Item {

    /** The most blank lines an entry begins with. */
    public static final int MOST_BLANK = 50;

    public FormLines {
        fields = List.copyOf(fields);
        alike = List.copyOf(alike);
    }

    @Override
    public int width() {
        return TRACKS;
    }

    @Override
    public int height() {
        return Math.clamp(blank, 1, TRACKS);
    }

    /** They take the whole width. */
    @Override
    public FormLines wide(int tracks) {
        return this;
    }

    /** The same with other fields. */
    public FormLines with(List<Field> others) {
        return new FormLines(id, label, table, by, others, blank, least, most, alike, belong, rules);
    }

    /** The same with other rules of each line. */
    public FormLines ruled(Rules others) {
        return new FormLines(id, label, table, by, fields, blank, least, most, alike, belong, others);
    }

    @Override
    public FormLines named(String other) {
        return new FormLines(other, label, table, by, fields, blank, least, most, alike, belong, rules);
    }
}
