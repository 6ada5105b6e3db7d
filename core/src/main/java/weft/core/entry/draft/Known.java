package weft.core.entry.draft;

import java.math.BigDecimal;
import java.util.Collections;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import weft.core.formula.Answer;
import weft.core.formula.Feel;
import weft.core.formula.Formula;
import weft.core.formula.Moment;
import weft.core.formula.Template;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.twice.Standing;
import weft.core.value.Value;
import weft.core.value.Wire;

/**
 * What the formulas of an entry may name: the columns of its table, by their former names too, and what is {@linkplain
 * #AROUND around} it. It begins with the entry as it is stored and learns each value as it is found.
 */
public final class Known {

    /** What formulas may name beside columns. */
    public static final Set<String> AROUND = Set.of("last", "person", "row", "answers", Standing.COLUMN.name());

    private final Map<String, Value> values = new HashMap<>();
    private final Map<String, Object> named = new HashMap<>();
    private final StoredRows stored;
    private final Moment moment;

    private Known(StoredRows stored, Moment moment) {
        this.stored = stored;
        this.moment = moment;
    }

    /** What is known of a draft before anything is found, at that moment. */
    public static Known of(Table table, Draft draft, StoredRows stored, Moment moment) {
        return of(table, draft, draft.stored(), 0, stored, moment);
    }

    /**
     * What is known of an entry whose values are found.
     *
     * @param values by column; one left out is empty
     * @param row its row number, or 0 before it has one
     * @param stored where the records that it links to are
     */
    public static Known of(
            Table table, Draft draft, Map<String, Value> values, long row, StoredRows stored, Moment moment) {
        var known = new Known(stored, moment);
        table.columns().forEach(column -> known.learn(column, values.getOrDefault(column.name(), Value.EMPTY)));
        draft.lines()
                .forEach((id, lines) -> known.named.putIfAbsent(
                        id, lines.stream().map(Feel::known).toList()));
        known.named.put("last", last(table, draft.around().last()));
        known.named.put("person", draft.around().person());
        known.named.put("answers", new HashMap<String, Object>(draft.around().answers()));
        known.named.put(
                Standing.COLUMN.name(), (Supplier<Object>) () -> draft.record().isPresent()
                        ? Wire.word(stored.standing(draft.record().getAsLong()))
                        : Wire.word(Standing.ONCE));
        known.named.put("row", row == 0 ? null : BigDecimal.valueOf(row));
        return known;
    }

    /** The entry saved before; all of it is empty when there is none. */
    private static Map<String, Object> last(Table table, Map<String, Value> values) {
        var last = new HashMap<String, Object>();
        table.columns().forEach(column -> {
            var value = Feel.known(values.getOrDefault(column.name(), Value.EMPTY));
            last.put(column.name(), value);
            column.former().forEach(name -> last.put(name, value));
        });
        return last;
    }

    /** From now on the column has that value. */
    public void learn(Column column, Value value) {
        values.put(column.name(), value);
        var asKnown = asKnown(column, value);
        named.put(column.name(), asKnown);
        column.former().forEach(name -> named.put(name, asKnown));
    }

    private @Nullable Object asKnown(Column column, Value value) {
        return value instanceof Value.Link link && column.link().isPresent()
                ? Feel.linked(link, () -> stored.linked(column.link().get(), link.id()))
                : Feel.known(value);
    }

    /** The value of a column of that name; empty when there is none. */
    public Value of(String column) {
        return values.getOrDefault(column, Value.EMPTY);
    }

    /** The value of the column. */
    public Value of(Column column) {
        return of(column.name());
    }

    /** The values of all columns, as they are known now. */
    public Map<String, Value> values() {
        return Collections.unmodifiableMap(values);
    }

    /** The moment at which formulas are answered. */
    public Moment moment() {
        return moment;
    }

    /** What the formula comes to now. */
    public Answer answer(Formula formula) {
        return formula.answer(named, moment);
    }

    /** How the text reads now. */
    public String words(Template text) {
        return text.words(named, moment);
    }
}
