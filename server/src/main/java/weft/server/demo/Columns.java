package weft.server.demo;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.function.Function;
import weft.core.rule.Check;
import weft.core.rule.Rules;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.table.TableProposal.LinkProposal;

/** Short ways to say what the demo's tables are made of. */
final class Columns {

    private Columns() {}

    static Table table(String name, String title, ColumnProposal... columns) {
        return table(_ -> Optional.empty(), name, title, columns);
    }

    /** A table that links to some of those. */
    static Table table(Function<String, Optional<Table>> tables, String name, String title, ColumnProposal... columns) {
        return new TableProposal(name, title, Arrays.asList(columns), "after-last")
                .named()
                .checked(tables);
    }

    /** A link to the records of a table, which are called by those columns. */
    static ColumnProposal link(String name, String title, String to, String... shown) {
        return linked(column(name, title, "link"), new LinkProposal(to, List.of(shown), ""));
    }

    private static ColumnProposal linked(ColumnProposal column, LinkProposal link) {
        return new ColumnProposal(
                column.name(),
                column.title(),
                column.type(),
                column.required(),
                column.unique(),
                column.scale(),
                column.min(),
                column.max(),
                column.choices(),
                OptionalInt.of(14),
                Optional.of(link));
    }

    static ColumnProposal column(String name, String title, String type) {
        return new ColumnProposal(
                name,
                title,
                type,
                false,
                false,
                OptionalInt.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                OptionalInt.empty());
    }

    static ColumnProposal text(String name, String title, int usualLength) {
        return new ColumnProposal(
                name,
                title,
                "text",
                false,
                false,
                OptionalInt.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                OptionalInt.of(usualLength));
    }

    static ColumnProposal required(ColumnProposal column) {
        return new ColumnProposal(
                column.name(),
                column.title(),
                column.type(),
                true,
                column.unique(),
                column.scale(),
                column.min(),
                column.max(),
                column.choices(),
                column.usualLength(),
                column.link());
    }

    static ColumnProposal unique(ColumnProposal column) {
        return new ColumnProposal(
                column.name(),
                column.title(),
                column.type(),
                column.required(),
                true,
                column.scale(),
                column.min(),
                column.max(),
                column.choices(),
                column.usualLength());
    }

    static ColumnProposal number(String name, String title, int scale, String min, String max) {
        return new ColumnProposal(
                name,
                title,
                scale == 0 ? "whole" : "decimal",
                false,
                false,
                scale == 0 ? OptionalInt.empty() : OptionalInt.of(scale),
                Optional.of(min),
                Optional.of(max),
                List.of(),
                OptionalInt.empty());
    }

    static ColumnProposal choice(String name, String title, List<String> choices) {
        return new ColumnProposal(
                name,
                title,
                "choice",
                false,
                false,
                OptionalInt.empty(),
                Optional.empty(),
                Optional.empty(),
                choices,
                OptionalInt.empty());
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
