package weft.store.imports;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.guess.Guess;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.NormalText;
import weft.store.imports.ImportColumn.Offer;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Finds, while a file goes by, the columns of other tables in which every value of one of its columns stands. */
final class LinkOffers {

    private static final int BLOCK = 500;

    private final DSLContext within;
    private final List<List<Target>> alive;
    private final List<Set<String>> block = new ArrayList<>();
    private final boolean[] filled;
    private int rows = -1;

    /** A column of codes or numbers of another table. */
    private record Target(StoredTable table, Column column) {}

    LinkOffers(DSLContext within, List<Guess> guesses) {
        this.within = within;
        this.filled = new boolean[guesses.size()];
        var places = places();
        this.alive = guesses.stream()
                .map(guess -> new ArrayList<>(places.stream()
                        .filter(place -> place.column().type() == ColumnType.WHOLE
                                ? guess.type() == ColumnType.WHOLE
                                : guess.type().isText())
                        .toList()))
                .<List<Target>>map(each -> each)
                .toList();
        guesses.forEach(_ -> block.add(new HashSet<>()));
    }

    private List<Target> places() {
        var tables = new Tables(within);
        var gone = tables.takenAway().stream()
                .map(each -> each.table() + "." + each.column().orElse(""))
                .collect(Collectors.toSet());
        return tables.list().stream()
                .filter(listed -> !gone.contains(listed.name() + "."))
                .flatMap(listed -> tables.find(listed.name()).stream())
                .flatMap(table -> table.definition().columns().stream()
                        .filter(Column::unique)
                        .filter(column -> column.type() == ColumnType.TEXT || column.type() == ColumnType.WHOLE)
                        .filter(column -> !gone.contains(table.definition().name() + "." + column.name()))
                        .map(column -> new Target(table, column)))
                .toList();
    }

    /** Whether it could be that there is something to offer. */
    boolean any() {
        return alive.stream().anyMatch(places -> !places.isEmpty());
    }

    /** Takes the headings first, then each row. */
    void take(RowFile.Row row) {
        if (rows++ < 0) {
            return;
        }
        for (int at = 0; at < alive.size() && at < row.cells().size(); at++) {
            if (!alive.get(at).isEmpty()) {
                var value = NormalText.of(row.cells().get(at));
                if (!value.isEmpty()) {
                    block.get(at).add(value);
                }
            }
        }
        if (rows % BLOCK == 0) {
            look();
        }
    }

    private void look() {
        for (int at = 0; at < alive.size(); at++) {
            var values = block.get(at);
            if (!values.isEmpty()) {
                filled[at] = true;
                alive.get(at).removeIf(place -> !allIn(place, values));
                values.clear();
            }
        }
    }

    private boolean allIn(Target place, Set<String> values) {
        if (values.stream().anyMatch(NormalText::hasUnstorable)) {
            return false;
        }
        if (place.column().type() == ColumnType.WHOLE
                && values.stream().anyMatch(value -> !value.matches("-?\\d{1,18}"))) {
            return false;
        }
        var type = ColumnSql.type(place.column()).getCastTypeName(within.configuration());
        int found = within.fetchSingle(
                        "select count(*)::int from {0} where {1} = any(cast({2} as " + type + "[]))",
                        DSL.table(place.table().sqlName()),
                        DSL.field(DSL.name(place.column().name())),
                        DSL.val(values.toArray(String[]::new)))
                .get(0, Integer.class);
        return found == values.size();
    }

    /** By the place of each column of the file: where it could link to. */
    List<List<Offer>> found() {
        look();
        var found = new ArrayList<List<Offer>>();
        for (int at = 0; at < alive.size(); at++) {
            found.add(
                    filled[at]
                            ? alive.get(at).stream()
                                    .map(place -> new Offer(
                                            place.table().definition().name(),
                                            place.table().definition().title(),
                                            place.column().name()))
                                    .toList()
                            : List.of());
        }
        return found;
    }
}
