package weft.core.form;

import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import weft.core.find.Sort;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Conventions;

/**
 * A form: the one source for what the Desk draws.
 *
 * @param id names it in addresses
 * @param title the name people read
 * @param table the name of the table it writes to
 * @param conventions how its people write dates and numbers
 * @param enter what the Enter key does
 * @param leaving what happens to a changed record when one moves on
 * @param order the order in which its records first come
 * @param style how all of it looks
 * @param tray the columns that the tray shows of an entry; empty for the first two fields
 * @param sections its items in tab order, in groups
 * @param rules what it declares about its entries
 */
public record Form(
        String id,
        String title,
        String table,
        Conventions conventions,
        Enter enter,
        Leaving leaving,
        Sort order,
        Style style,
        List<String> tray,
        List<Section> sections,
        Rules rules) {

    public Form {
        tray = List.copyOf(tray);
        sections = List.copyOf(sections);
    }

    /** What the Enter key does in a field. */
    public enum Enter {
        /** Saves the entry. */
        SAVES,
        /** Moves to the next field, and saves from the last. */
        MOVES_ON
    }

    /** What happens to a changed record when one moves on to another. */
    public enum Leaving {
        /** It is saved first. */
        SAVES,
        /** One is asked whether to save it. */
        ASKS
    }

    /** How close the lines of a form stand. */
    public enum Density {
        AIRY,
        REGULAR,
        TIGHT
    }

    /**
     * How a whole form looks.
     *
     * @param tone the colour of its headings
     * @param size the size of its text
     */
    public record Style(Density density, Field.Tone tone, Field.Size size) {

        /** As forms look when nothing else is said. */
        public static final Style REGULAR = new Style(Density.REGULAR, Field.Tone.PLAIN, Field.Size.NORMAL);
    }

    /**
     * A group of items under a title; an empty title draws no heading.
     *
     * @param columns how many fields a new line of it holds, 1 to 4
     */
    public record Section(String title, int columns, List<Item> items) {

        /** So many fields a line holds where nothing else is said. */
        public static final int USUAL_COLUMNS = 4;

        public Section {
            items = List.copyOf(items);
        }

        /** The same with other items. */
        public Section with(List<Item> others) {
            return new Section(title, columns, others);
        }
    }

    /** Every item in tab order. */
    public Stream<Item> items() {
        return sections.stream().flatMap(section -> section.items().stream());
    }

    /** Every field in tab order. */
    public Stream<Field> fields() {
        return items().filter(Field.class::isInstance).map(Field.class::cast);
    }

    /** Its lines of other tables, in tab order. */
    public Stream<FormLines> lines() {
        return items().filter(FormLines.class::isInstance).map(FormLines.class::cast);
    }

    /** The field threaded to that column, or empty. */
    public Optional<Field> fieldOf(String column) {
        return fields().filter(field -> field.column().equals(column)).findFirst();
    }

    /** The item of that id, or empty. */
    public Optional<Item> item(String named) {
        return items().filter(item -> item.id().equals(named)).findFirst();
    }

    /** The same with each section changed so. */
    public Form withSections(UnaryOperator<Section> change) {
        return withSections(sections.stream().map(change).toList());
    }

    /** The same with other sections. */
    public Form withSections(List<Section> others) {
        return new Form(id, title, table, conventions, enter, leaving, order, style, tray, others, rules);
    }

    /** The same with each field changed so. */
    public Form withFields(UnaryOperator<Field> change) {
        return withSections(section -> section.with(section.items().stream()
                .map(item -> item instanceof Field field ? change.apply(field) : item)
                .toList()));
    }

    /** The same with only those fields and values of columns that are so. */
    public Form showing(Predicate<String> columns) {
        return withSections(section -> section.with(section.items().stream()
                .filter(item -> switch (item) {
                    case Field field -> columns.test(field.column());
                    case Calculated shown -> shown.column().isEmpty() || columns.test(shown.column());
                    case Words _, Picture _, Button _, FormLines _ -> true;
                })
                .toList()));
    }

    /** The same without that item. */
    public Form without(String item) {
        return withSections(section -> section.with(
                section.items().stream().filter(each -> !each.id().equals(item)).toList()));
    }

    /** The same with every column called as the table calls it now; those that the table has no more keep their names. */
    public Form following(Table current) {
        if (current.columns().stream().allMatch(column -> column.former().isEmpty())) {
            return this;
        }
        UnaryOperator<String> now =
                name -> current.column(name).map(Column::name).orElse(name);
        var sorted = Sort.by(order.levels().stream()
                .map(level -> new Sort.Level(now.apply(level.column()), level.down()))
                .toList());
        return new Form(
                id,
                title,
                table,
                conventions,
                enter,
                leaving,
                sorted,
                style,
                tray.stream().map(now).toList(),
                sections.stream()
                        .map(section -> section.with(section.items().stream()
                                .map(item -> following(item, now))
                                .toList()))
                        .toList(),
                rules.following(now));
    }

    private static Item following(Item item, UnaryOperator<String> now) {
        return switch (item) {
            case Field field -> field.threadedTo(now.apply(field.column()));
            case Calculated shown ->
                new Calculated(shown.id(), shown.label(), now.apply(shown.column()), shown.width());
            case Words _, Picture _, Button _, FormLines _ -> item;
        };
    }

    /** The same under another id and title. */
    public Form named(String otherId, String otherTitle) {
        return new Form(otherId, otherTitle, table, conventions, enter, leaving, order, style, tray, sections, rules);
    }

    /** The same on another table. */
    public Form on(String other) {
        return new Form(id, title, other, conventions, enter, leaving, order, style, tray, sections, rules);
    }

    /** The same with other rules. */
    public Form ruled(Rules others) {
        return new Form(id, title, table, conventions, enter, leaving, order, style, tray, sections, others);
    }

    /** The same, its dates and numbers written so. */
    public Form written(Conventions other) {
        return new Form(id, title, table, other, enter, leaving, order, style, tray, sections, rules);
    }

    /** The same with other columns in its tray. */
    public Form trayed(List<String> others) {
        return new Form(id, title, table, conventions, enter, leaving, order, style, others, sections, rules);
    }

    /** The same in another order. */
    public Form ordered(Sort other) {
        return new Form(id, title, table, conventions, enter, leaving, other, style, tray, sections, rules);
    }
}
