package weft.core.table;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Function;
import weft.core.table.Faults.Fault;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Kind;
import weft.core.value.NormalText;
import weft.core.value.Order;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/**
 * A table as somebody asks for it, not yet checked.
 *
 * @param name its SQL name
 * @param title the name people read; blank for one made from the name
 * @param columns its columns
 * @param placement where new entries go
 */
public record TableProposal(String name, String title, List<ColumnProposal> columns, Table.Placement placement) {

    private static final Function<String, Optional<Table>> NO_TABLES = _ -> Optional.empty();

    /** PostgreSQL has room for more, but no form has. */
    public static final int MOST_COLUMNS = 400;

    /**
     * A column as somebody asks for it.
     *
     * @param name its SQL name
     * @param title the name people read; blank for one made from the name
     * @param min the least value in canonical spelling, or empty
     * @param max the greatest value in canonical spelling, or empty
     */
    public record ColumnProposal(
            String name,
            String title,
            ColumnType type,
            boolean required,
            boolean unique,
            OptionalInt scale,
            Optional<String> min,
            Optional<String> max,
            List<String> choices,
            OptionalInt usualLength,
            Optional<LinkProposal> link) {

        /** A column of that type, of which nothing else is said. */
        public static ColumnProposal plain(String name, String title, ColumnType type) {
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
                    OptionalInt.empty(),
                    Optional.empty());
        }

        /** The same under that name. */
        public ColumnProposal named(String given) {
            return new ColumnProposal(
                    given, title, type, required, unique, scale, min, max, choices, usualLength, link);
        }

        /** The same, required or not. */
        public ColumnProposal required(boolean wanted) {
            return new ColumnProposal(name, title, type, wanted, unique, scale, min, max, choices, usualLength, link);
        }

        /** The same, in which no two records are alike, or may be. */
        public ColumnProposal unique(boolean wanted) {
            return new ColumnProposal(name, title, type, required, wanted, scale, min, max, choices, usualLength, link);
        }

        /** The same with so many decimals. */
        public ColumnProposal scaled(OptionalInt decimals) {
            return new ColumnProposal(
                    name, title, type, required, unique, decimals, min, max, choices, usualLength, link);
        }

        /** The same between those bounds, in canonical spelling. */
        public ColumnProposal within(Optional<String> least, Optional<String> greatest) {
            return new ColumnProposal(
                    name, title, type, required, unique, scale, least, greatest, choices, usualLength, link);
        }

        /** The same with that list. */
        public ColumnProposal of(List<String> list) {
            return new ColumnProposal(name, title, type, required, unique, scale, min, max, list, usualLength, link);
        }

        /** The same, with so many characters usually at most. */
        public ColumnProposal usually(OptionalInt length) {
            return new ColumnProposal(name, title, type, required, unique, scale, min, max, choices, length, link);
        }

        /** The same, leading there. */
        public ColumnProposal leading(Optional<LinkProposal> there) {
            return new ColumnProposal(
                    name, title, type, required, unique, scale, min, max, choices, usualLength, there);
        }
    }

    /**
     * A link as somebody asks for it.
     *
     * @param to the name of the table
     * @param shown the names of the columns by which its records are called; none for the usual one
     * @param removed what becomes of it when its record is removed
     */
    public record LinkProposal(String to, List<String> shown, Link.Removed removed) {}

    /** The same with a name made from its title wherever one is blank. */
    public TableProposal named() {
        var taken = new HashSet<String>();
        columns.stream().map(ColumnProposal::name).forEach(taken::add);
        var named = new ArrayList<ColumnProposal>();
        for (var column : columns) {
            named.add(
                    column.name().isBlank()
                            ? column.named(Names.name(column.title(), named.size() + 1, taken))
                            : column);
        }
        return new TableProposal(
                name.isBlank() ? Names.name(title, 1, new HashSet<>()) : name, title, named, placement);
    }

    /**
     * The table asked for, which links to no other.
     *
     * @throws Faults with everything that is wrong with it
     */
    public Table checked() {
        return checked(NO_TABLES);
    }

    /**
     * The table asked for.
     *
     * @param tables those that it can link to, by name
     * @throws Faults with everything that is wrong with it
     */
    public Table checked(Function<String, Optional<Table>> tables) {
        var faults = new ArrayList<Fault>();
        if (!Names.isName(name)) {
            faults.add(new Fault("name", badName("table", name)));
        }
        if (columns.isEmpty()) {
            faults.add(new Fault("columns", "A table needs at least one column."));
        }
        if (columns.size() > MOST_COLUMNS) {
            faults.add(new Fault("columns", "A table can have " + MOST_COLUMNS + " columns at most."));
        }
        var taken = new HashSet<String>();
        var checked = new ArrayList<Column>();
        for (int i = 0; i < columns.size(); i++) {
            var where = "columns[" + i + "].";
            if (!taken.add(columns.get(i).name())) {
                faults.add(new Fault(
                        where + "name",
                        "There are two columns named " + columns.get(i).name() + ". Rename one."));
            }
            checked.add(column(columns.get(i), tables, where, faults));
        }
        if (!faults.isEmpty()) {
            throw new Faults(faults);
        }
        return new Table(name, titled(title, name), checked, placement);
    }

    /**
     * A single column asked for.
     *
     * @param tables those that it can link to, by name
     * @throws Faults with everything that is wrong with it
     */
    public static Column checked(ColumnProposal asked, Function<String, Optional<Table>> tables) {
        var faults = new ArrayList<Fault>();
        var column = column(asked, tables, "", faults);
        if (!faults.isEmpty()) {
            throw new Faults(faults);
        }
        return column;
    }

    private static Column column(
            ColumnProposal asked, Function<String, Optional<Table>> tables, String where, List<Fault> faults) {
        if (!Names.isName(asked.name())) {
            faults.add(new Fault(where + "name", badName("column", asked.name())));
        }
        var type = asked.type();
        if (asked.scale().isPresent()
                && (type != ColumnType.DECIMAL
                        || asked.scale().getAsInt() < 0
                        || asked.scale().getAsInt() > 15)) {
            faults.add(new Fault(where + "scale", "Only a decimal column has a scale, from 0 to 15."));
        }
        var choices = asked.choices().stream()
                .map(NormalText::of)
                .filter(choice -> !choice.isEmpty())
                .distinct()
                .toList();
        if (type == ColumnType.CHOICE && choices.isEmpty()) {
            faults.add(new Fault(where + "choices", "A choice column needs its list of choices."));
        } else if (type != ColumnType.CHOICE && !choices.isEmpty()) {
            faults.add(new Fault(
                    where + "choices",
                    "Only a choice column has a list. Make its type choice, or leave the list out."));
        }
        var column = Column.plain(asked.name(), titled(asked.title(), asked.name()), type)
                .required(asked.required())
                .unique(asked.unique())
                .scaled(type == ColumnType.DECIMAL ? asked.scale() : OptionalInt.empty())
                .of(choices)
                .usually(asked.usualLength())
                .leading(link(asked, type, tables, where, faults));
        var min = asked.min().flatMap(bound -> bound(column, bound, where + "min", faults));
        var max = asked.max().flatMap(bound -> bound(column, bound, where + "max", faults));
        if (min.isPresent() && max.isPresent() && Order.compare(min.get(), max.get()) > 0) {
            faults.add(new Fault(where + "min", "The least value is above the greatest. Swap them."));
        }
        return column.within(min, max);
    }

    private static Optional<Link> link(
            ColumnProposal asked,
            ColumnType type,
            Function<String, Optional<Table>> tables,
            String where,
            List<Fault> faults) {
        if (type != ColumnType.LINK) {
            asked.link()
                    .ifPresent(_ -> faults.add(new Fault(
                            where + "to",
                            "Only a link leads to a table. Make its type link, or leave the table out.")));
            return Optional.empty();
        }
        var proposed = asked.link().orElse(new LinkProposal("", List.of(), Link.Removed.REFUSE));
        var to = tables.apply(proposed.to());
        if (to.isEmpty()) {
            faults.add(new Fault(
                    where + "to",
                    proposed.to().isBlank()
                            ? "A link needs the table that it leads to."
                            : "There is no table “" + proposed.to() + "” to link to."));
            return Optional.empty();
        }
        if (to.get().shownOnly()) {
            faults.add(new Fault(
                    where + "to",
                    "%s is a view, whose records can't be linked to. Link to the table that it is of."
                            .formatted(to.get().title())));
        }
        if (asked.required() && proposed.removed() == Link.Removed.EMPTY) {
            faults.add(
                    new Fault(
                            where + "removed",
                            "A link that every record needs can't be emptied. Let the removal be refused, or do without required."));
        }
        var shown = new ArrayList<Column>();
        for (var name : proposed.shown()) {
            to.get()
                    .column(name)
                    .filter(column -> Link.shows(column.type()))
                    .ifPresentOrElse(
                            shown::add,
                            () -> faults.add(new Fault(
                                    where + "shown",
                                    "%s has no column “%s” of text, numbers or dates to call its records by."
                                            .formatted(to.get().title(), name))));
        }
        if (shown.size() > Link.MOST_SHOWN) {
            faults.add(new Fault(
                    where + "shown", "A link shows " + Link.MOST_SHOWN + " columns at most. Leave some out."));
        }
        return Optional.of(new Link(
                to.get().name(),
                to.get().title(),
                proposed.shown().isEmpty()
                        ? Link.usual(to.get())
                        : shown.stream().distinct().toList(),
                proposed.removed()));
    }

    private static Optional<Value> bound(Column column, String bound, String where, List<Fault> faults) {
        if (!column.type().hasRange()) {
            faults.add(new Fault(where, "A least or greatest value is for numbers, dates and times only."));
            return Optional.empty();
        }
        return switch (ValueReader.ofStored(Conventions.DEFAULT).read(Kind.of(column.type()), bound)) {
            case Reading.Read(var value, var _) when !value.isEmpty() -> Optional.of(value);
            case Reading.Read _ -> Optional.empty();
            case Reading.Refused(var refusal) -> {
                faults.add(new Fault(where, refusal.words()));
                yield Optional.empty();
            }
        };
    }

    private static String titled(String title, String name) {
        var given = NormalText.of(title);
        return given.isEmpty() ? Names.title(name, 1) : Names.cut(given, Names.LONGEST_TITLE);
    }

    private static String badName(String what, String name) {
        return "“" + name + "” can't be the name of a " + what
                + ". Use lower-case letters, digits and underscores, a letter first, 63 at most.";
    }
}
