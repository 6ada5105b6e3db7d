package weft.core.entry;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weft.core.entry.draft.Findings;
import weft.core.record.StoredRow;
import weft.core.value.Typed;

/**
 * What is to be said of an entry together with its lines.
 *
 * @param entry of the entry itself
 * @param lines by the id of the form's lines: of each of them
 */
public record Sheet(Assessment entry, Map<String, Assessed> lines) {

    public Sheet {
        lines = Collections.unmodifiableMap(new LinkedHashMap<>(lines));
    }

    /**
     * A line as somebody sends it.
     *
     * @param typed what is typed, by column
     * @param stored the record that it changes; empty for a new line
     * @param gone whether it is taken out
     * @param chosen by the id of a fill, the identity of the record chosen where several match
     * @param seen by column: what a fill had brought, or would have, when it was typed over
     */
    public record Line(
            Map<String, Typed> typed,
            Optional<StoredRow> stored,
            boolean gone,
            Map<String, Long> chosen,
            Map<String, String> seen) {}

    /**
     * The lines of one kind: those that are sent, by their number from 1, and those that stay as they are stored.
     *
     * @param sent a number that is left out is a blank line
     * @param others not among those sent
     */
    public record Lines(Map<Integer, Line> sent, List<StoredRow> others) {

        public Lines {
            sent = Collections.unmodifiableMap(new TreeMap<>(sent));
            others = List.copyOf(others);
        }

        /** None. */
        public static final Lines NONE = new Lines(Map.of(), List.of());
    }

    /**
     * What is to be said of the lines of one kind.
     *
     * @param each by the number of the line; nothing is said of one that is taken out
     * @param whole of all of them together
     */
    public record Assessed(Map<Integer, Assessment> each, Findings whole) {

        public Assessed {
            each = Collections.unmodifiableMap(new TreeMap<>(each));
        }

        /** What is to be said of that line, of which something is. */
        public Assessment of(int line) {
            return Optional.ofNullable(each.get(line)).orElseThrow();
        }

        /** Whether nothing is in the way of any. */
        public boolean clear() {
            return whole.none()
                    && each.values().stream().allMatch(line -> line.findings().none());
        }
    }

    /** What is to be said of the lines of that id, which the form has. */
    public Assessed of(String id) {
        return Optional.ofNullable(lines.get(id)).orElseThrow();
    }

    /** Whether nothing is in the way of any of it. */
    public boolean clear() {
        return entry.findings().none() && lines.values().stream().allMatch(Assessed::clear);
    }
}
