package weft.server.find;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import weft.core.find.Around;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.find.View.Condition;
import weft.core.find.Where;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Faults.Fault;
import weft.core.twice.Standing;
import weft.store.form.ShownForm;

/**
 * What a request asks for: {@code where} as often as there are criteria, each {@code column:criterion}; {@code any} for
 * text in any field; {@code sort}, which is the form's own order when it is left out.
 *
 * @param conditions the criteria that could be read
 * @param refused why others could not, by column
 * @param any what is asked of any field, or the empty string
 */
public record FindRequest(
        List<Condition> conditions, Map<String, String> refused, Optional<View.Anywhere> any, Sort sort) {

    /**
     * What is asked of that form.
     *
     * @throws Faults when there is no field to find by, or no such order
     */
    public static FindRequest of(
            ShownForm form, List<String> criteria, @Nullable String any, @Nullable String sort, Clock clock) {
        var table = form.seen().definition();
        var reader = new CriterionReader(form.form().conventions(), LocalDateTime.now(clock));
        var conditions = new ArrayList<Condition>();
        var refused = new LinkedHashMap<String, String>();
        for (var written : criteria) {
            var where = Where.of(written);
            var name = where.column();
            var column = column(form, name)
                    .orElseThrow(() -> new Faults("where", "This form has no field for “" + name + "” to find by."));
            if (!where.typed().isBlank()) {
                switch (reader.read(column, where.typed())) {
                    case Criterion.Read(var criterion) ->
                        conditions.add(new Condition(column, form.label(column), criterion));
                    case Criterion.Refused(var message) -> refused.put(name, message);
                }
            }
        }
        // Said in the order of the fields, whatever the order they came in.
        conditions.sort(Comparator.comparing(condition -> form.plan().columns().indexOf(condition.column())));
        return new FindRequest(
                conditions,
                refused,
                filled(any).map(text -> anywhere(form, reader, text)),
                filled(sort)
                        .map(wire -> Sort.read(wire, table))
                        .orElseGet(() -> form.form().order().of(table)));
    }

    /** What can be found by: a field of the form, what is {@linkplain Around around} a record, or how far its keyings have come. */
    static Optional<Column> column(ShownForm form, String name) {
        return name.equals(Standing.COLUMN.name())
                ? Optional.of(Standing.COLUMN)
                : Around.named(name).or(() -> form.plan().takes(name));
    }

    private static Optional<String> filled(@Nullable String text) {
        return Optional.ofNullable(text).filter(each -> !each.isBlank());
    }

    private static View.Anywhere anywhere(ShownForm form, CriterionReader reader, String text) {
        if (text.length() > CriterionReader.LONGEST) {
            throw new Faults("any", "The text to find is too long. Shorten it.");
        }
        return new View.Anywhere(
                text.strip(),
                form.plan().columns().stream()
                        .flatMap(column -> reader.anywhere(column, text).stream()
                                .map(criterion -> new Condition(column, form.label(column), criterion)))
                        .toList());
    }

    /**
     * The records asked for.
     *
     * @throws Faults when a criterion could not be read
     */
    public View view() {
        if (!refused.isEmpty()) {
            throw new Faults(refused.entrySet().stream()
                    .map(each -> new Fault(each.getKey(), each.getValue()))
                    .toList());
        }
        return understood();
    }

    /** The records asked for by those criteria that could be read. */
    View understood() {
        return new View(conditions, any, sort);
    }
}
