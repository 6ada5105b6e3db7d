package weft.core.rule;

import java.util.List;
import java.util.function.UnaryOperator;

/**
 * When these fields match a stored record of a table, bring these columns of it in.
 *
 * @param id names it within its form
 * @param table the table of the stored records
 * @param keys which field must be what which column of that table is
 * @param brings which field gets which column of that table
 * @param none what happens when no record matches
 * @param several what happens when more than one does
 * @param writesBack whether a filled value that is changed is written back to the record that it came from
 */
public record Fill(
        String id, String table, List<Tie> keys, List<Tie> brings, None none, Several several, boolean writesBack)
        implements Declaration {

    public Fill {
        keys = List.copyOf(keys);
        brings = List.copyOf(brings);
    }

    /** Whether it brings columns of the very record that a link means, so that nothing need match. */
    public boolean throughLink() {
        return keys.size() == 1 && keys.getFirst().source().isEmpty();
    }

    /**
     * A column of the form's table, and one of another table.
     *
     * @param column of the form's table
     * @param source of the other table; empty in the one key of a fill through a link
     */
    public record Tie(String column, String source) {}

    Fill following(UnaryOperator<String> now) {
        return new Fill(id, table, following(keys, now), following(brings, now), none, several, writesBack);
    }

    static List<Tie> following(List<Tie> ties, UnaryOperator<String> now) {
        return ties.stream()
                .map(tie -> new Tie(now.apply(tie.column()), tie.source()))
                .toList();
    }

    /** What happens when no record matches. */
    public enum None {
        LEAVE,
        ASK,
        STOP
    }

    /** What happens when several records match. */
    public enum Several {
        CHOOSE,
        LEAVE,
        ASK,
        STOP
    }
}
