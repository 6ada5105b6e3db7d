package weft.server.demo;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.function.Function;
import weft.core.rule.Check;
import weft.core.rule.Rules;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.table.TableProposal.LinkProposal;
import weft.core.value.ColumnType;

/** Short ways to say what the demo's tables are made of. */
final class Columns {

    private Columns() {}

    static Table table(String name, String title, ColumnProposal... columns) {
        return table(_ -> Optional.empty(), name, title, columns);
    }

    /** A table that links to some of those. */
    static Table table(Function<String, Optional<Table>> tables, String name, String title, ColumnProposal... columns) {
        return new TableProposal(name, title, Arrays.asList(columns), Table.Placement.AFTER_LAST)
                .named()
                .checked(tables);
    }

    /** A link to the records of a table, which are called by those columns. */
    static ColumnProposal link(String name, String title, String to, String... shown) {
        return ColumnProposal.plain(name, title, ColumnType.LINK)
                .usually(OptionalInt.of(14))
                .leading(Optional.of(new LinkProposal(to, List.of(shown), Link.Removed.REFUSE)));
    }

    static ColumnProposal column(String name, String title, ColumnType type) {
        return ColumnProposal.plain(name, title, type);
    }

    static ColumnProposal text(String name, String title, int usualLength) {
        return column(name, title, ColumnType.TEXT).usually(OptionalInt.of(usualLength));
    }

    static ColumnProposal required(ColumnProposal column) {
        return column.required(true);
    }

    static ColumnProposal unique(ColumnProposal column) {
        return column.unique(true);
    }

    static ColumnProposal number(String name, String title, int scale, String min, String max) {
        return column(name, title, scale == 0 ? ColumnType.WHOLE : ColumnType.DECIMAL)
                .scaled(scale == 0 ? OptionalInt.empty() : OptionalInt.of(scale))
                .within(Optional.of(min), Optional.of(max));
    }

    static ColumnProposal choice(String name, String title, List<String> choices) {
        return column(name, title, ColumnType.CHOICE).of(choices);
    }

    /** Rules that are checks only. */
    static Rules checks(Check... checks) {
        return new Rules(List.of(checks), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());
    }

    static String oneOf(Random random, List<String> choices) {
        return choices.get(random.nextInt(choices.size()));
    }

    /** The cell, or nothing in so many of a hundred cases. */
    static String gap(Random random, int percent, String cell) {
        return random.nextInt(100) < percent ? "" : cell;
    }
}
