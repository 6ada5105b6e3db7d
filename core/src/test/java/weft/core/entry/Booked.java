package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.record.StoredRows;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;

/** Bookings of kit, whose tags bring in what is known of each piece, and what is assessed of them. */
final class Booked {

    private Booked() {}

    static final EntryEngine ENGINE =
            new EntryEngine(Clock.fixed(Instant.parse("2026-08-05T14:07:00Z"), ZoneOffset.UTC));

    static Column column(String name, ColumnType type) {
        return Column.plain(
                name, name.substring(0, 1).toUpperCase() + name.substring(1).replace('_', ' '), type);
    }

    static final Table BOOKINGS = new Table(
            "bookings",
            "Bookings",
            List.of(
                    column("tag", ColumnType.TEXT),
                    column("kind", ColumnType.TEXT),
                    column("charge", ColumnType.DECIMAL).scaled(OptionalInt.of(2)),
                    column("from_at", ColumnType.DATETIME),
                    column("to_at", ColumnType.DATETIME),
                    column("days", ColumnType.WHOLE),
                    column("total", ColumnType.DECIMAL).scaled(OptionalInt.of(2)),
                    column("borrower", ColumnType.TEXT),
                    column("remark", ColumnType.TEXT)),
            Placement.AFTER_LAST,
            List.of(new Constraint.NoOverlap("once", List.of("tag"), "from_at", "to_at", "")));

    static final Table KIT = new Table(
            "kit",
            "Kit",
            List.of(
                    column("code", ColumnType.TEXT),
                    column("name", ColumnType.TEXT),
                    column("per_day", ColumnType.DECIMAL)),
            Placement.AFTER_LAST);

    static Value text(String text) {
        return new Value.Text(text);
    }

    static final StoredRows STORED = new Rows()
            .with(
                    "kit",
                    3,
                    Map.of(
                            "code",
                            text("K-07"),
                            "name",
                            text("Meter"),
                            "per_day",
                            new Value.Decimal(new BigDecimal("4.5"))))
            .with(
                    "kit",
                    4,
                    Map.of(
                            "code",
                            text("K-08"),
                            "name",
                            text("Net"),
                            "per_day",
                            new Value.Decimal(new BigDecimal("1"))))
            .with("kit", 5, Map.of("code", text("K-08"), "name", text("Net, large"), "per_day", Value.EMPTY))
            .with(
                    88,
                    Map.of(
                            "tag", text("K-07"),
                            "from_at", new Value.Moment(LocalDateTime.of(2026, 8, 1, 9, 0)),
                            "to_at", new Value.Moment(LocalDateTime.of(2026, 8, 1, 12, 0))));

    static final Fill FILL = new Fill(
            "kit",
            "kit",
            List.of(new Tie("tag", "code")),
            List.of(new Tie("kind", "name"), new Tie("charge", "per_day")),
            Fill.None.STOP,
            Fill.Several.CHOOSE,
            true);
    static final List<Derived> FORMULAS = List.of(
            new Derived(
                    "days",
                    Decides.DEFAULT,
                    "if to_at = null then null else floor((to_at - from_at) / duration(\"P1D\")) + 1"),
            new Derived("total", Decides.CALCULATED, "days * charge"),
            new Derived("remark", Decides.SHOWN, "total > 10"),
            new Derived("borrower", Decides.REQUIRED, "total > 10"));

    static Rules rules(List<Check> checks, List<Fill> fills, List<Derived> formulas) {
        return new Rules(checks, fills, formulas, List.of(), List.of(), List.of(), List.of());
    }

    static Form form(Rules rules) {
        return FormMaking.from(BOOKINGS, "bookings", Conventions.DEFAULT).ruled(rules);
    }

    static EntryPlan plan(Form form) {
        return EntryPlan.of(
                form,
                BOOKINGS,
                name -> Optional.of(KIT).filter(table -> table.name().equals(name)));
    }

    static Draft draft(Map<String, String> typed) {
        var keyed = new HashMap<String, Typed>();
        typed.forEach((name, text) -> keyed.put(name, new Typed.Keyed(text)));
        return new Draft(keyed, OptionalLong.empty());
    }

    static Assessment assess(Rules rules, Map<String, String> typed) {
        return ENGINE.assess(plan(form(rules)), draft(typed), STORED);
    }

    static Finding one(Assessment assessment) {
        assertThat(assessment.findings().all()).hasSize(1);
        return assessment.findings().all().getFirst();
    }

    static final Map<String, String> BOOKED =
            Map.of("tag", "K-07", "from_at", "8/3/2026 9:00", "to_at", "8/5/2026 9:00", "borrower", "Imre");
}
