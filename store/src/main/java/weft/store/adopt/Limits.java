package weft.store.adopt;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Kind;
import weft.core.value.NormalText;
import weft.core.value.Order;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.adopt.Existing.Check;

/**
 * What the checks of a table say of one column, as far as it is a list of texts or bounds, in the words in which PostgreSQL gives
 * them back. What is understood can be said while one types; all of it is held by the database in any case.
 *
 * @param choices the only texts that are taken; none when any is
 */
record Limits(List<Bound> bounds, List<String> choices) {

    private static final String COLUMN = "\\(*(?:\"(?:[^\"]|\"\")+\"|[a-z_][a-z0-9_$]*)\\)?(?:::text)?\\)?";
    private static final Pattern LIST = Pattern.compile(
            "CHECK \\(\\(" + COLUMN + " = ANY \\(+ARRAY\\[(.*?)\\]\\)?(?:::text\\[\\])?\\)+", Pattern.DOTALL);
    private static final Pattern QUOTED =
            Pattern.compile("'((?:[^']|'')*)'::(?:text|character varying|bpchar)(?:, |$)");
    private static final Pattern COMPARED =
            Pattern.compile("\\(*" + COLUMN + " (>=|<=|>|<) (?:\\(?'?([-0-9.: ]+)'?\\)?)(?:::[a-z0-9 ]+)?\\)*");

    /** A bound, and whether it lies within. */
    record Bound(boolean least, boolean itself, String value) {}

    /** Of the checks that speak of that column alone. */
    static Limits of(List<Check> checks, String column) {
        var bounds = new ArrayList<Bound>();
        var choices = new ArrayList<String>();
        for (var check : checks) {
            if (check.columns().equals(List.of(column))) {
                read(check.definition(), bounds, choices);
            }
        }
        return new Limits(bounds, choices);
    }

    private static void read(String definition, List<Bound> bounds, List<String> choices) {
        var list = LIST.matcher(definition);
        if (list.matches()) {
            var found = new ArrayList<String>();
            var quoted = QUOTED.matcher(list.group(1));
            int end = 0;
            while (quoted.find() && quoted.start() == end) {
                found.add(quoted.group(1).replace("''", "'"));
                end = quoted.end();
            }
            boolean typable = end == list.group(1).length()
                    && found.stream()
                            .allMatch(each ->
                                    !each.isEmpty() && NormalText.of(each).equals(each));
            if (typable && choices.isEmpty()) {
                choices.addAll(found);
            }
            return;
        }
        if (!definition.startsWith("CHECK (") || definition.endsWith("NOT VALID")) {
            return;
        }
        var read = new ArrayList<Bound>();
        for (var part : definition
                .substring("CHECK (".length(), definition.length() - 1)
                .split(" AND ")) {
            var compared = COMPARED.matcher(part);
            if (!compared.matches()) {
                return;
            }
            var sign = compared.group(1);
            read.add(new Bound(sign.startsWith(">"), sign.endsWith("="), compared.group(2)));
        }
        bounds.addAll(read);
    }

    /** The column within what was understood. */
    Column on(Column column) {
        if (!choices.isEmpty() && column.type() == ColumnType.TEXT) {
            return Column.plain(column.name(), column.title(), ColumnType.CHOICE)
                    .of(choices);
        }
        var narrowed = column;
        for (var bound : bounds) {
            var value = value(column, bound);
            if (value.isPresent() && column.type().hasRange()) {
                narrowed = bound.least()
                        ? narrowed.within(tighter(narrowed.min(), value.get(), 1), narrowed.max())
                        : narrowed.within(narrowed.min(), tighter(narrowed.max(), value.get(), -1));
            }
        }
        return narrowed;
    }

    private static Optional<Value> tighter(Optional<Value> there, Value value, int sign) {
        return there.filter(each -> Order.compare(each, value) * sign >= 0).or(() -> Optional.of(value));
    }

    /** The least or greatest value that fulfils it; of a bound that lies outside the next one, where there is such a thing. */
    private static Optional<Value> value(Column column, Bound bound) {
        if (!(ValueReader.ofStored(Conventions.DEFAULT).read(Kind.of(column.type()), bound.value())
                        instanceof Reading.Read(var value, var _))
                || value.isEmpty()) {
            return Optional.empty();
        }
        if (bound.itself()) {
            return Optional.of(value);
        }
        int step = bound.least() ? 1 : -1;
        return switch (value) {
            case Value.Whole(var number) -> Optional.of(new Value.Whole(number + step));
            case Value.Decimal(var number)
            when column.scale().isPresent() ->
                Optional.of(new Value.Decimal(number.add(
                        BigDecimal.valueOf(step).movePointLeft(column.scale().getAsInt()))));
            case Value.Day(var date) -> Optional.of(new Value.Day(date.plusDays(step)));
            default -> Optional.empty();
        };
    }
}
