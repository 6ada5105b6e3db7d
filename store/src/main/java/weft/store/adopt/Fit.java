package weft.store.adopt;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.NormalText;
import weft.core.value.Value;
import weft.store.adopt.Existing.Part;

/**
 * What a column of a table becomes: a column of Weft, how that is seen in a row, and what a row {@code new} of the view writes to
 * which columns.
 *
 * @param base the columns that it stands for
 * @param how how it comes of the first of them
 * @param inserted what each of them is given in a new row; where the database works a column out it is not there
 * @param changed likewise in a row that is changed; nothing where nobody can type
 */
record Fit(Column column, List<String> base, Seen how, List<Into> inserted, List<Into> changed) {

    /** Bytes beyond this in one value would be too much for a page of rows. */
    private static final int MOST_BYTES = 100_000;
    /** A numeric column's modifier holds precision and scale above the size of a header. */
    private static final int HEADER = 4;

    private static final int MOST_DECIMALS = 15;

    /**
     * What is seen of a column.
     *
     * @param expression with {@code %1$s} for the column
     * @param steady whether it never comes to anything else, so that an index can be made on it
     */
    record Seen(String column, String expression, boolean steady) {}

    /** The expression of what is seen, in a row of that prefix. */
    String seen(String row) {
        return how.expression().formatted(row + Sql.quoted(how.column()));
    }

    /** The same as an index is made on it, if one can be. */
    Optional<String> indexed() {
        return how.steady() ? Optional.of(seen("")) : Optional.empty();
    }

    /** An expression that is written to a column. */
    record Into(String column, String expression) {}

    /** Of a column that leads nowhere. */
    static Fit of(Part part, String name, String title, Facts.Fact fact, Limits limits, boolean unique) {
        var why = why(part, fact);
        boolean asText = why.isPresent() && (!isWhole(part) || fact.odd());
        // A cast that is asked for would cut what is too long; where none is needed, it is refused.
        var given = "new." + Sql.quoted(name) + (asText || !part.labels().isEmpty() ? "::" + part.type() : "");
        var write = List.of(new Into(
                part.name(),
                part.usual()
                        .map(usual -> "coalesce(" + given + ", " + usual + ")")
                        .orElse(given)));
        var base = List.of(part.name());
        if (why.isPresent()) {
            var shown = Column.plain(name, title, asText ? text(fact) : ColumnType.WHOLE)
                    .usually(OptionalInt.of(fact.longest()))
                    .onlyShown(why);
            var how = asText ? shownAsText(part) : new Seen(part.name(), "%1$s", true);
            return new Fit(shown, base, how, part.generated() ? List.of() : write, List.of());
        }
        boolean text = Facts.isText(part);
        var column = limits.on(bounded(part, Column.plain(name, title, type(part, fact))))
                .required(part.needed() && part.usual().isEmpty())
                .unique(unique)
                .usually(text ? OptionalInt.of(fact.longest()) : OptionalInt.empty());
        return new Fit(column, base, seen(part), write, write);
    }

    private static Seen seen(Part part) {
        if (Facts.isText(part)) {
            // A text of no characters is nothing.
            boolean other = part.domain() || part.base().equals("bpchar");
            return new Seen(part.name(), "nullif(%1$s" + (other ? "::text" : "") + ", '')", true);
        }
        if (!part.labels().isEmpty()) {
            return new Seen(part.name(), "%1$s::text", false);
        }
        return new Seen(part.name(), part.domain() ? "%1$s::" + part.base() : "%1$s", true);
    }

    /** Why Weft can only show what a column holds; empty when it can write it. */
    static Optional<String> why(Part part, Facts.Fact fact) {
        if (part.generated()) {
            return Optional.of("The database works it out.");
        }
        if (part.always()
                || part.usual().filter(usual -> usual.startsWith("nextval(")).isPresent()) {
            return Optional.of("The database numbers it.");
        }
        if (fact.odd()) {
            return Optional.of("It holds what Weft can't write, such as an endless date or a number that is none.");
        }
        if (!part.labels().isEmpty()) {
            return part.labels().stream().allMatch(label -> NormalText.of(label).equals(label))
                    ? Optional.empty()
                    : Optional.of("Some of its choices can't be typed.");
        }
        return switch (part.base()) {
            case "int2", "int4", "int8", "bool", "date", "time", "timestamp", "text", "varchar", "bpchar" ->
                Optional.empty();
            case "numeric" ->
                scale(part).stream().allMatch(scale -> scale >= 0 && scale <= MOST_DECIMALS)
                        ? Optional.empty()
                        : Optional.of("Its numbers have more decimals than Weft writes.");
            case "timestamptz" ->
                Optional.of("It is a moment in any time zone, shown in UTC. Weft writes local times only.");
            case "float4", "float8" -> Optional.of("It is an inexact number, which would not be kept as it is typed.");
            case "json", "jsonb", "xml" -> Optional.of("It is a document, which programs write.");
            case "bytea" -> Optional.of("It is bytes, which programs write.");
            case "uuid" -> Optional.of("It is an identifier, which programs give.");
            default ->
                Optional.of(
                        part.type().endsWith("[]")
                                ? "It is a list of values, which programs write."
                                : "It is of the type %s, which Weft does not write.".formatted(part.type()));
        };
    }

    /** Why a table with that column can't be adopted; empty when it is in nobody's way. */
    static Optional<String> hindrance(Part part, Facts.Fact fact) {
        if (part.base().equals("bytea") && fact.longest() > MOST_BYTES) {
            return Optional.of("%s holds up to %,d bytes in a row, more than can be shown with every record."
                    .formatted(part.name(), fact.longest()));
        }
        return part.needed() && part.usual().isEmpty() && !part.generated()
                ? why(part, fact)
                        .map(why -> ("Every row needs a value in %s, and Weft can't write one: it is of the type %s."
                                        + " Give it a default, or let it be empty.")
                                .formatted(part.name(), part.type()))
                : Optional.empty();
    }

    private static boolean isWhole(Part part) {
        return List.of("int2", "int4", "int8").contains(part.base());
    }

    private static ColumnType text(Facts.Fact fact) {
        return fact.lines() ? ColumnType.LONGTEXT : ColumnType.TEXT;
    }

    private static ColumnType type(Part part, Facts.Fact fact) {
        if (!part.labels().isEmpty()) {
            return ColumnType.CHOICE;
        }
        return switch (part.base()) {
            case "int2", "int4", "int8" -> ColumnType.WHOLE;
            case "numeric" -> ColumnType.DECIMAL;
            case "bool" -> ColumnType.YESNO;
            case "date" -> ColumnType.DATE;
            case "time" -> ColumnType.TIME;
            case "timestamp" -> ColumnType.DATETIME;
            default -> text(fact);
        };
    }

    /** The limits that the type itself has. */
    private static Column bounded(Part part, Column column) {
        return switch (part.base()) {
            case "int2" -> between(column, Short.MIN_VALUE, Short.MAX_VALUE);
            case "int4" -> between(column, Integer.MIN_VALUE, Integer.MAX_VALUE);
            case "varchar", "bpchar" ->
                part.modifier() < HEADER ? column : column.upTo(OptionalInt.of(part.modifier() - HEADER));
            case "numeric" -> {
                var scale = scale(part);
                if (scale.isEmpty()) {
                    yield column;
                }
                int digits = (part.modifier() - HEADER) >> 16 & 0xffff;
                var most = BigDecimal.ONE
                        .movePointRight(digits - scale.getAsInt())
                        .subtract(BigDecimal.ONE.movePointLeft(scale.getAsInt()));
                yield column.scaled(scale)
                        .within(Optional.of(new Value.Decimal(most.negate())), Optional.of(new Value.Decimal(most)));
            }
            default -> column.of(part.labels());
        };
    }

    private static Column between(Column column, long least, long most) {
        return column.within(Optional.of(new Value.Whole(least)), Optional.of(new Value.Whole(most)));
    }

    /** How many decimals a numeric column has: eleven bits with a sign. */
    private static OptionalInt scale(Part part) {
        return part.modifier() < HEADER
                ? OptionalInt.empty()
                : OptionalInt.of(((part.modifier() - HEADER & 0x7ff) ^ 1024) - 1024);
    }

    /** As text from which PostgreSQL can make the value again. */
    private static Seen shownAsText(Part part) {
        return new Seen(
                part.name(),
                part.base().equals("timestamptz")
                        ? "case when isfinite(%1$s) then replace(timezone('UTC', %1$s)::text, ' ', 'T') || 'Z' else %1$s::text end"
                        : "nullif(%1$s::text, '')",
                false);
    }
}
