package weft.core.table;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import weft.core.value.ColumnType;
import weft.core.value.Kind;
import weft.core.value.Value;

/**
 * A column of a table.
 *
 * @param name the SQL name, unique in its table
 * @param title the name people read
 * @param type what kind of values it holds
 * @param required whether every record must have a value here
 * @param unique whether no two records may have the same value here
 * @param bounds what of its type its values may be
 * @param choices the list of a choice column, else empty
 * @param usualLength how many characters its values usually have at most, which sets the width of a field
 * @param former the names it had before; no other column of its table ever takes one, so each leads to it for good
 * @param link where a link column leads, else empty
 * @param shownOnly why nobody can type into it, where the database alone gives its values; else empty
 */
public record Column(
        String name,
        String title,
        ColumnType type,
        boolean required,
        boolean unique,
        Bounds bounds,
        List<String> choices,
        OptionalInt usualLength,
        List<String> former,
        Optional<Link> link,
        Optional<String> shownOnly) {

    public Column {
        choices = List.copyOf(choices);
        former = List.copyOf(former);
    }

    /**
     * What of a type values may be.
     *
     * @param scale the most decimals of a decimal; empty for any number
     * @param min the least value, for types with a range
     * @param max the greatest value, for types with a range
     * @param longest how many characters a text may have; empty for any number
     */
    public record Bounds(OptionalInt scale, Optional<Value> min, Optional<Value> max, OptionalInt longest) {
        /** Any value of the type. */
        public static final Bounds NONE =
                new Bounds(OptionalInt.empty(), Optional.empty(), Optional.empty(), OptionalInt.empty());
    }

    /** A column that takes any value of its type, empty too. */
    public static Column plain(String name, String title, ColumnType type) {
        return new Column(
                name,
                title,
                type,
                false,
                false,
                Bounds.NONE,
                List.of(),
                OptionalInt.empty(),
                List.of(),
                Optional.empty(),
                Optional.empty());
    }

    /** The most decimals of a decimal column; empty for any number. */
    public OptionalInt scale() {
        return bounds.scale();
    }

    /** The least value, if it has one. */
    public Optional<Value> min() {
        return bounds.min();
    }

    /** The greatest value, if it has one. */
    public Optional<Value> max() {
        return bounds.max();
    }

    /** How many characters a text may have; empty for any number. */
    public OptionalInt longest() {
        return bounds.longest();
    }

    /** The same, wanting a value in every record or not. */
    public Column required(boolean wanted) {
        return new Column(name, title, type, wanted, unique, bounds, choices, usualLength, former, link, shownOnly);
    }

    /** The same, letting no two records share a value or not. */
    public Column unique(boolean wanted) {
        return new Column(name, title, type, required, wanted, bounds, choices, usualLength, former, link, shownOnly);
    }

    /** The same with other bounds. */
    public Column bound(Bounds others) {
        return new Column(name, title, type, required, unique, others, choices, usualLength, former, link, shownOnly);
    }

    /** The same with numbers of so many decimals. */
    public Column scaled(OptionalInt decimals) {
        return bound(new Bounds(decimals, bounds.min(), bounds.max(), bounds.longest()));
    }

    /** The same within these bounds. */
    public Column within(Optional<Value> least, Optional<Value> most) {
        return bound(new Bounds(bounds.scale(), least, most, bounds.longest()));
    }

    /** The same with texts of so many characters at most. */
    public Column upTo(OptionalInt characters) {
        return bound(new Bounds(bounds.scale(), bounds.min(), bounds.max(), characters));
    }

    /** The same with that list of choices. */
    public Column of(List<String> list) {
        return new Column(name, title, type, required, unique, bounds, list, usualLength, former, link, shownOnly);
    }

    /** The same with values of usually so many characters. */
    public Column usually(OptionalInt characters) {
        return new Column(name, title, type, required, unique, bounds, choices, characters, former, link, shownOnly);
    }

    /** The same under names it had before. */
    public Column once(List<String> names) {
        return new Column(name, title, type, required, unique, bounds, choices, usualLength, names, link, shownOnly);
    }

    /** The same, leading there. */
    public Column leading(Link to) {
        return leading(Optional.of(to));
    }

    /** The same, leading there or nowhere. */
    public Column leading(Optional<Link> to) {
        return new Column(name, title, type, required, unique, bounds, choices, usualLength, former, to, shownOnly);
    }

    /** The same, whose values the database alone gives, for that reason. */
    public Column onlyShown(Optional<String> reason) {
        return new Column(name, title, type, required, unique, bounds, choices, usualLength, former, link, reason);
    }

    /** On which side of its limits a value of its type lies, or empty when it lies within them. */
    public Optional<Limits.Side> outOf(Value value) {
        return new Limits(min(), max()).outOf(value);
    }

    /** Whether it is the same as another one in all but its title and what it was once called. */
    public boolean isButForItsTitle(Column other) {
        return name.equals(other.name)
                && kind().equals(other.kind())
                && required == other.required
                && unique == other.unique
                && min().equals(other.min())
                && max().equals(other.max())
                && link.equals(other.link);
    }

    /** Whether it bears that name, or once did. */
    public boolean answersTo(String asked) {
        return name.equals(asked) || former.contains(asked);
    }

    /** What a reader must know of it. */
    public Kind kind() {
        return new Kind(type, scale(), choices);
    }
}
