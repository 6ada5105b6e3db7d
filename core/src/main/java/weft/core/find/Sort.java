package weft.core.find;

import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;

/**
 * The order of records: by these columns, one after the other, and by row number among those that are alike. Empty values
 * come last, whichever way a column goes.
 *
 * @param levels the columns, the first one counting most
 * @param rowsDown whether among the alike the highest row comes first
 */
public record Sort(List<Level> levels, boolean rowsDown) {

    /** By row number, the lowest first. */
    public static final Sort BY_ROW = new Sort(List.of(), false);

    private static final int MOST = 8;
    private static final String ROW = "row";

    public Sort {
        levels = List.copyOf(levels);
    }

    /** One column of an order. */
    public record Level(String column, boolean down) {}

    /** The order by those columns; among the alike, rows go the way of the last column. */
    public static Sort by(List<Level> levels) {
        return levels.isEmpty() ? BY_ROW : new Sort(levels, levels.getLast().down());
    }

    /** The same by those of its columns that the table still has. */
    public Sort of(Table table) {
        var there = levels.stream()
                .filter(level -> table.column(level.column()).isPresent())
                .toList();
        return there.size() == levels.size() ? this : by(there);
    }

    /** What the column of that name is called now. */
    private static String now(String name, Table table) {
        return table.column(name).map(Column::name).orElse(name);
    }

    /**
     * Reads an order such as {@code -taken_on,site}, or {@code row} and {@code -row}; a minus goes downwards.
     *
     * @throws Faults when it names no column of the table
     */
    public static Sort read(String wire, Table table) {
        var names =
                wire.isBlank() ? List.<String>of() : Arrays.asList(wire.strip().split("\\s*,\\s*"));
        if (names.size() == 1
                && (names.getFirst().equals(ROW) || names.getFirst().equals("-" + ROW))
                && table.column(ROW).isEmpty()) {
            return new Sort(List.of(), names.getFirst().startsWith("-"));
        }
        if (names.size() > MOST) {
            throw new Faults("sort", "Records are sorted by " + MOST + " columns at most.");
        }
        var levels = names.stream()
                .map(name -> new Level(now(name.replaceFirst("^-", ""), table), name.startsWith("-")))
                .toList();
        var seen = new HashSet<String>();
        for (var level : levels) {
            if (table.column(level.column()).isEmpty()) {
                throw new Faults("sort", "There is no column “" + level.column() + "” to sort by.");
            }
            if (!seen.add(level.column())) {
                throw new Faults("sort", "“" + level.column() + "” is there twice; once is enough.");
            }
        }
        return by(levels);
    }

    /** The order in the spelling that {@link #read} takes. */
    public String wire() {
        return levels.isEmpty()
                ? (rowsDown ? "-" : "") + ROW
                : levels.stream()
                        .map(level -> (level.down() ? "-" : "") + level.column())
                        .collect(Collectors.joining(","));
    }

    /** The order in words: "Taken on, newest first; then Site". {@code label} names a column as people know it. */
    public String words(Table table, Function<Column, String> label) {
        if (levels.isEmpty()) {
            return rowsDown ? "Row, highest first" : "Row";
        }
        return levels.stream()
                .flatMap(level -> table.column(level.column()).stream()
                        .map(column -> label.apply(column) + (level.down() ? ", " + downwards(column) : "")))
                .collect(Collectors.joining("; then "));
    }

    private static String downwards(Column column) {
        return switch (column.type()) {
            case DATE, DATETIME -> "newest first";
            case TIME -> "latest first";
            case WHOLE, DECIMAL -> "highest first";
            case YESNO -> "yes first";
            case TEXT, LONGTEXT, CHOICE, PICTURE, LINK -> "Z to A";
        };
    }
}
