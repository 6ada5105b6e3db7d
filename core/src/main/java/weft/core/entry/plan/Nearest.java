package weft.core.entry.plan;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import weft.core.table.Column;
import weft.core.table.Table;

/** What may have been meant by a name that is no column's: those spelled nearly so. */
final class Nearest {

    private static final int MOST = 3;
    /** No column is called longer. */
    private static final int LONGEST = 63;

    private Nearest() {}

    /** The names of the columns that are spelled or called most alike, the nearest first; none where none is near. */
    static List<String> to(String name, Table table) {
        if (name.length() > LONGEST) {
            return List.of();
        }
        int near = Math.max(1, name.length() / 3);
        return table.columns().stream()
                .filter(column -> distance(name, column) <= near)
                .sorted(Comparator.comparingInt(column -> distance(name, column)))
                .limit(MOST)
                .map(Column::name)
                .toList();
    }

    private static int distance(String name, Column column) {
        return Math.min(
                distance(name, column.name()), distance(name, column.title().replace(' ', '_')));
    }

    /** How many letters are put in, left out, changed or swapped with their neighbours: optimal string alignment. */
    private static int distance(String some, String other) {
        var a = some.toLowerCase(Locale.ROOT);
        var b = other.toLowerCase(Locale.ROOT);
        var rows = new int[a.length() + 1][b.length() + 1];
        for (int i = 0; i <= a.length(); i++) {
            for (int j = 0; j <= b.length(); j++) {
                if (i == 0 || j == 0) {
                    rows[i][j] = i + j;
                    continue;
                }
                int changed = rows[i - 1][j - 1] + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
                rows[i][j] = Math.min(changed, Math.min(rows[i - 1][j], rows[i][j - 1]) + 1);
                boolean swapped =
                        i > 1 && j > 1 && a.charAt(i - 1) == b.charAt(j - 2) && a.charAt(i - 2) == b.charAt(j - 1);
                if (swapped) {
                    rows[i][j] = Math.min(rows[i][j], rows[i - 2][j - 2] + 1);
                }
            }
        }
        return rows[a.length()][b.length()];
    }
}
