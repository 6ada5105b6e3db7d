package weft.server.entry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import weft.core.door.Door;
import weft.server.http.Problem;

/**
 * Many entries at once, a line each.
 *
 * @param same what is typed once for all lines, by column; a line's own comes before it
 * @param lines the lines; one in which nothing is typed is none, and keeps its number
 * @param version the published version of the form they were begun on; the latest when none is said
 * @param answers by the code of a finding, or the id of a check or question: what was answered, for all lines
 * @param last the record that was saved last in this sitting
 * @param keep all where it is not said
 */
record BatchJson(
        @Nullable Map<String, @Nullable JsonNode> same,
        List<BatchLineJson> lines,
        @Nullable Integer version,
        @Nullable Map<String, String> answers,
        @Nullable Long last,
        Door.@Nullable Keep keep) {

    /** The most lines of a batch. */
    static final int MOST = 5_000;

    /**
     * A line.
     *
     * @param values what is typed, by column
     * @param chosen by the id of a fill: the record chosen where several match
     * @param seen by column: what a fill had brought, or would have, when it was typed over
     */
    record BatchLineJson(
            Map<String, @Nullable JsonNode> values,
            @Nullable Map<String, Long> chosen,
            @Nullable Map<String, String> seen) {

        private boolean blank() {
            return values.values().stream()
                    .allMatch(value -> value == null
                            || value.isNull()
                            || (value.isString() && value.asString().isBlank()));
        }
    }

    /** A line in which something is typed, by its number from 1, as an entry of its own. */
    record Numbered(int line, DraftJson draft) {}

    /** 400 when there are too many lines. */
    BatchJson checked() {
        if (lines.size() > MOST) {
            throw Problem.malformed("A batch has %,d lines at most; this one has %,d.".formatted(MOST, lines.size()));
        }
        return this;
    }

    boolean passing() {
        return keep == Door.Keep.PASSING;
    }

    /** The lines in which something is typed, each with what is the same on all. */
    List<Numbered> typed() {
        var typed = new ArrayList<Numbered>();
        for (int at = 0; at < lines.size(); at++) {
            var line = lines.get(at);
            if (!line.blank()) {
                var values = new LinkedHashMap<String, @Nullable JsonNode>(same == null ? Map.of() : same);
                values.putAll(line.values());
                // Only the first one comes after what was saved before; the others come after each other.
                var before = typed.isEmpty() ? last : null;
                var draft =
                        new DraftJson(values, null, version, answers, line.chosen(), before, null, null, line.seen());
                typed.add(new Numbered(at + 1, draft));
            }
        }
        return typed;
    }

    /** What makes it the same batch when it is sent again. */
    String spelled() {
        var spelled = new StringBuilder(new TreeMap<>(same == null ? Map.of() : same).toString());
        lines.forEach(line -> spelled.append(new TreeMap<>(line.values())));
        return spelled.append(passing()).toString();
    }
}
