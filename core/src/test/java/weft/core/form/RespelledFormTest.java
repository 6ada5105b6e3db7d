package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weft.core.form.Field.Start;
import weft.core.rule.Check;
import weft.core.rule.Practice;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

class RespelledFormTest {

    private static final LocalDateTime NOW = LocalDateTime.parse("2026-11-23T10:00");
    private static final Conventions OTHER = new Conventions(DayOrder.DAY_FIRST, DecimalSign.COMMA);
    private static final Table TABLE = new Table(
            "samples",
            "Samples",
            List.of(Column.plain("day", "Day", ColumnType.DATE), Column.plain("ph", "pH", ColumnType.DECIMAL)),
            Table.Placement.AFTER_LAST);

    /** Fields, rules and lines that spell the same day and number. */
    private static Form form(String day, String number) {
        var fields = TABLE.columns().stream()
                .map(FormMaking::field)
                .map(field -> field.begun(new Start(field.column().equals("day") ? day : number, false, false)))
                .toList();
        var rules = Rules.NONE.with(
                List.of(
                        check("range", new Check.Range("ph", number, "9")),
                        check("list", new Check.OneOf("day", List.of(day, "2026-12-24")))),
                List.of(new Practice(
                        "one", "One", Map.of("day", day), Map.of(), Practice.Outcome.SAVED, "", Map.of())));
        var lines = new FormLines("lines", "Lines", "samples", "ph", fields, 1, 0, 0, List.of(), false, rules);
        return FormMaking.from(TABLE, "samples", Conventions.DEFAULT)
                .withSections(List.of(new Form.Section("", 4, List.of(fields.get(0), fields.get(1), lines))))
                .ruled(rules);
    }

    private static Check check(String id, Check.Rule rule) {
        return new Check(id, rule, false, false, "");
    }

    private static Form after(Form before, Form after) {
        return RespelledForm.of(before, after, _ -> Optional.of(TABLE), NOW);
    }

    @Test
    void whatItSpellsIsSpelledTheOtherWayInItsLinesToo() {
        var before = form("8/1/2026", "6.5");
        assertThat(after(before, before.written(OTHER)))
                .isEqualTo(form("1/8/2026", "6,5").written(OTHER));
        assertThat(after(before.written(OTHER), before)).isEqualTo(form("1/8/2026", "6.5"));
    }

    @Test
    void whatWasChangedWithItIsTakenAsItIsWritten() {
        var changed = form("3/4/2026", "7,5").written(OTHER);
        assertThat(after(form("8/1/2026", "6.5"), changed)).isEqualTo(changed);
        var same = form("3/4/2026", "7.5");
        assertThat(after(form("8/1/2026", "6.5"), same)).isSameAs(same);
    }
}
