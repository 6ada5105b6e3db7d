package weft.server.form;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.LocalDateTime;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Field;
import weft.core.table.Column;
import weft.core.value.Unreadable;
import weft.store.form.PlannedForm;

/**
 * What the rules of a form make of a field, whatever is typed.
 *
 * @param listed whether its value is chosen from the records of a table
 * @param numbered whether a save gives it a running number
 * @param unreadable what is known to be unreadable in it before it is read; left out where nothing is
 */
public record RuledJson(
        boolean listed,
        boolean numbered,

        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable UnreadableJson unreadable) {

    /**
     * A text that has this pattern nowhere is unreadable, and these words, with the text in place of {@code {typed}}, say why.
     *
     * @param readable a pattern of JavaScript, with the flags {@code iu}
     */
    record UnreadableJson(String readable, String words) {
        static UnreadableJson of(Unreadable known) {
            return new UnreadableJson(known.readable(), known.words());
        }
    }

    /** What they make of each field, by column. */
    public static Map<String, RuledJson> of(PlannedForm form, LocalDateTime now) {
        return of(form.plan(), now);
    }

    /** The same of a form made ready. */
    public static Map<String, RuledJson> of(EntryPlan plan, LocalDateTime now) {
        var rules = plan.form().rules();
        var ruled = new LinkedHashMap<String, RuledJson>();
        plan.form()
                .fields()
                .map(Field::column)
                .forEach(column -> ruled.put(
                        column,
                        new RuledJson(
                                rules.listOf(column).isPresent()
                                        || plan.takes(column)
                                                .flatMap(Column::link)
                                                .isPresent(),
                                rules.numbers().stream()
                                        .anyMatch(each -> each.column().equals(column)),
                                plan.takes(column)
                                        .flatMap(takes -> Unreadable.of(takes.kind(), plan.conventions(), now))
                                        .map(UnreadableJson::of)
                                        .orElse(null))));
        return ruled;
    }
}
