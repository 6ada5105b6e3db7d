package weft.store.imports;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Into.Doubles;
import weft.store.table.StoredTable;

/**
 * Where a column of a file goes.
 *
 * @param from its place in the file, from 0
 * @param into the name of the table's column that it goes into; empty where it goes into none
 * @param dayOrder how its dates are written, where it could be read two ways
 * @param decimalSign likewise of its numbers
 */
public record Goes(int from, Optional<String> into, Optional<DayOrder> dayOrder, Optional<DecimalSign> decimalSign) {

    /**
     * How the rows of a file go into a table.
     *
     * @param columns which column goes where; those of the same name, when it is not said
     * @param key the columns by which a row is known to be there already; what no two records share, when it is not said
     * @throws Faults when nothing of the file can go there so
     */
    public static Into into(
            Brought brought,
            StoredTable table,
            Optional<List<Goes>> columns,
            Optional<List<String>> key,
            Doubles doubles) {
        var definition = table.definition();
        if (definition.shownOnly()) {
            throw new Faults("table", definition.title() + " is a view. It takes no rows.");
        }
        var going =
                columns.map(each -> chosen(brought, definition, each)).orElseGet(() -> matched(brought, definition));
        if (going.isEmpty()) {
            throw new Faults(
                    "columns", "No column of the file goes into one of " + definition.title() + ". Choose one.");
        }
        var names = going.stream().map(column -> column.column().name()).toList();
        var known = key.orElseGet(() -> usualKey(definition, names));
        known.stream().filter(name -> !names.contains(name)).findFirst().ifPresent(name -> {
            throw new Faults(
                    "key", "Nothing of the file goes into “%s”, so doubles can't be known by it.".formatted(name));
        });
        return new Into(table, going, known, doubles);
    }

    /** Columns of the same title or name, as they are called now or once were. */
    private static List<ImportColumn> matched(Brought brought, Table table) {
        var taken = new HashSet<String>();
        var columns = new ArrayList<ImportColumn>();
        for (var from : brought.columns()) {
            table.columns().stream()
                    .filter(column -> column.shownOnly().isEmpty())
                    .filter(column ->
                            column.title().equalsIgnoreCase(from.column().title())
                                    || column.answersTo(from.column().name()))
                    .filter(column -> taken.add(column.name()))
                    .findFirst()
                    .ifPresent(column -> columns.add(from.into(column, Optional.empty(), Optional.empty())));
        }
        return columns;
    }

    private static List<ImportColumn> chosen(Brought brought, Table table, List<Goes> asked) {
        var taken = new HashSet<String>();
        var columns = new ArrayList<ImportColumn>();
        for (int at = 0; at < asked.size(); at++) {
            var goes = asked.get(at);
            var where = "columns[" + at + "]";
            if (goes.from() < 0 || goes.from() >= brought.columns().size()) {
                throw new Faults(where + ".from", "The file has no column %d.".formatted(goes.from() + 1));
            }
            if (goes.into().isEmpty()) {
                continue;
            }
            var name = goes.into().get();
            var column = table.column(name)
                    .orElseThrow(
                            () -> new Faults(where + ".into", "%s has no column “%s”.".formatted(table.title(), name)));
            column.shownOnly().ifPresent(why -> {
                throw new Faults(where + ".into", "%s can't be written. %s".formatted(column.title(), why));
            });
            if (!taken.add(column.name())) {
                throw new Faults(
                        where + ".into", "Two columns of the file go into %s. Choose one.".formatted(column.title()));
            }
            columns.add(brought.columns().get(goes.from()).into(column, goes.dayOrder(), goes.decimalSign()));
        }
        return columns;
    }

    /** What no two records share, as far as the file has it: a column, else several. */
    private static List<String> usualKey(Table table, List<String> there) {
        return table.columns().stream()
                .filter(column -> column.unique() && there.contains(column.name()))
                .map(Column::name)
                .findFirst()
                .map(List::of)
                .or(() -> table.constraints().stream()
                        .filter(each -> each instanceof Constraint.Unique && there.containsAll(each.columns()))
                        .map(Constraint::columns)
                        .findFirst())
                .orElse(List.of());
    }
}
