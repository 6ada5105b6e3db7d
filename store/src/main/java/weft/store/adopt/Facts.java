package weft.store.adopt;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import weft.store.adopt.Existing.Part;

/**
 * What the rows of a table hold, all of them read once.
 *
 * @param rows how many there are
 */
record Facts(long rows, Map<String, Fact> columns) {

    /**
     * Of one column.
     *
     * @param odd whether it holds what no column of Weft can: numbers that are none, endless dates, years beyond 9999, 24 o'clock
     * @param lines whether a text has more than one line
     * @param longest how long its longest text is, or how many its most bytes are
     */
    record Fact(boolean odd, boolean lines, int longest) {
        static final Fact NOTHING = new Fact(false, false, 0);
    }

    Fact of(String column) {
        return columns.getOrDefault(column, Fact.NOTHING);
    }

    static Facts of(DSLContext sql, Existing existing) {
        return of(sql, existing, Sql.quoted(existing.schema(), existing.name()));
    }

    /** The same of a copy of it, of that name. */
    static Facts of(DSLContext sql, Existing existing, String relation) {
        var asked = new ArrayList<String>(List.of("count(*)"));
        var parts = existing.columns();
        for (var part : parts) {
            var column = Sql.quoted(part.name());
            asked.add("coalesce(bool_or(" + odd(part, column) + "), false)");
            asked.add("coalesce(bool_or(" + (isText(part) ? "strpos(" + column + "::text, chr(10)) > 0" : "false")
                    + "), false)");
            asked.add("coalesce(max("
                    + (isText(part)
                            ? "length(" + column + "::text)"
                            : part.base().equals("bytea") ? "octet_length(" + column + ")" : "0")
                    + "), 0)");
        }
        var row =
                sql.fetchSingle(asked.stream().collect(Collectors.joining(", ", "select ", "")) + " from " + relation);
        var facts = new HashMap<String, Fact>();
        for (int i = 0; i < parts.size(); i++) {
            facts.put(
                    parts.get(i).name(),
                    new Fact(
                            row.get(1 + 3 * i, Boolean.class),
                            row.get(2 + 3 * i, Boolean.class),
                            row.get(3 + 3 * i, Integer.class)));
        }
        return new Facts(row.get(0, Long.class), facts);
    }

    static boolean isText(Part part) {
        return List.of("text", "varchar", "bpchar").contains(part.base());
    }

    private static String odd(Part part, String column) {
        return switch (part.base()) {
            case "numeric" -> column + "::numeric in ('NaN', 'Infinity', '-Infinity')";
            case "date", "timestamp" ->
                "not isfinite(" + column + ") or " + column + " < '0001-01-01' or " + column + " >= '10000-01-01'";
            case "time" -> column + " = '24:00'";
            default -> "false";
        };
    }
}
