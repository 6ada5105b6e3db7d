package weft.core.door;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Test;
import weft.core.door.Door.Done;
import weft.core.door.Door.Fields;
import weft.core.door.Door.InView;
import weft.core.door.Door.Keying;
import weft.core.door.Door.Who;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Trace;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Rules;
import weft.core.table.Constraint.NoOverlap;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;

class NarrowingTest {

    private static final Table TABLE = new TableProposal(
                    "notes",
                    "Notes",
                    List.of(column("site"), column("note"), column("by"), column("cost"), column("unshown")),
                    Table.Placement.AFTER_LAST)
            .named()
            .checked();

    private static final Form FORM = FormMaking.from(TABLE, "notes", Conventions.DEFAULT)
            .without("unshown")
            .ruled(new Rules(
                    List.of(
                            check("of cost", new Check.Holds("cost != \"x\"", "cost")),
                            check("of both", new Check.Holds("cost != site", "site")),
                            check("of site", new Check.Holds("site != \"bad\"", "site"))),
                    List.of(new Fill(
                            "fill",
                            "sites",
                            List.of(new Fill.Tie("site", "code")),
                            List.of(new Fill.Tie("note", "note"), new Fill.Tie("cost", "cost")),
                            Fill.None.LEAVE,
                            Fill.Several.LEAVE,
                            false)),
                    List.of(
                            new Derived("cost", Decides.SHOWN, "site != null"),
                            new Derived("note", Decides.REQUIRED, "cost = \"y\""),
                            new Derived("by", Decides.CALCULATED, "\"by the form\"")),
                    List.of(),
                    List.of(),
                    List.of(),
                    List.of()));

    private static final StoredRows NO_ROWS = new StoredRows() {
        @Override
        public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
            return Optional.empty();
        }

        @Override
        public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
            return Optional.empty();
        }

        @Override
        public List<StoredRow> matching(String table, Map<String, Value> values, int most) {
            return List.of();
        }

        @Override
        public Optional<StoredRow> alike(String table, Map<String, Value> values) {
            return Optional.empty();
        }

        @Override
        public Optional<StoredRow> record(String table, long id) {
            return Optional.empty();
        }

        @Override
        public Optional<StoredRow> inRow(String table, long row) {
            return Optional.empty();
        }
    };

    private static Check check(String id, Check.Rule rule) {
        return new Check(id, rule, false, false, "");
    }

    private static ColumnProposal column(String name) {
        return ColumnProposal.plain(name, name, ColumnType.TEXT);
    }

    private static Narrowing by(Map<String, String> filled, Set<String> leftOut, Set<String> locked) {
        return Narrowing.of(
                FORM,
                TABLE,
                new Door(
                        "a-door",
                        "A door",
                        "notes",
                        Who.of("Volunteers"),
                        Set.of(May.ADD),
                        InView.ALL,
                        filled,
                        new Fields(leftOut, locked),
                        Keying.ONE,
                        0,
                        false,
                        Done.STAY));
    }

    @Test
    void whatIsLeftOutIsNotInTheFormNorInTheRulesThatSpeakOfIt() {
        var narrowed = by(Map.of(), Set.of("cost"), Set.of());
        assertThat(narrowed.table().columns()).extracting(each -> each.name()).containsExactly("site", "note", "by");
        assertThat(narrowed.shown().fields()).extracting(Field::column).containsExactly("site", "note", "by");
        assertThat(narrowed.shown().rules().toString()).doesNotContain("cost");
        assertThat(narrowed.shown().rules().checks()).extracting(Check::id).containsExactly("of site");
        assertThat(narrowed.saving().rules().checks()).hasSize(3);
        var row = new StoredRow(
                1, 2, 3, Map.of("site", text("s"), "cost", text("secret"), "unshown", text("never on the form")));
        assertThat(narrowed.of(row).it().values()).containsOnlyKeys("site");
    }

    private static Value text(String text) {
        return new Value.Text(text);
    }

    private static Map<String, Value> saved(Narrowing narrowing, Map<String, String> typed, Map<String, Value> stored) {
        var plan = EntryPlan.of(narrowing.saving(), TABLE);
        assertThat(plan.faults()).extracting(fault -> fault.about()).containsOnly("fill");
        var keyed = new LinkedHashMap<String, Typed>();
        typed.forEach((column, each) -> keyed.put(column, new Typed.Keyed(each)));
        var around = new Draft.Around("Saffi Keane", Map.of(), Map.of(), Map.of());
        var record = stored.isEmpty() ? OptionalLong.empty() : OptionalLong.of(1);
        var values = new LinkedHashMap<>(stored);
        values.putAll(new EntryEngine(Clock.systemUTC())
                .assess(plan, new Draft(keyed, record, stored, around), NO_ROWS, Trace.none())
                .values());
        return values;
    }

    /** Nobody types what a door fills in, leaves out or locks: neither in a new entry nor in a stored one. */
    @Test
    void nothingTypedGetsIntoWhatADoorKeeps() {
        var narrowed = by(Map.of("by", "person", "unshown", "\"by the door\""), Set.of("cost"), Set.of("note"));
        var typed = Map.of("site", "s", "note", "forged", "by", "Somebody else", "cost", "forged", "unshown", "forged");
        var fresh = saved(narrowed, typed, Map.of());
        assertThat(fresh)
                .containsEntry("site", text("s"))
                .containsEntry("by", text("Saffi Keane"))
                .containsEntry("unshown", text("by the door"));
        assertThat(fresh.toString()).doesNotContain("forged");
        var stored = Map.of("site", text("old"), "note", text("n"), "by", text("Imre"), "cost", text("c"));
        assertThat(saved(narrowed, typed, stored))
                .containsEntry("site", text("s"))
                .containsEntry("note", text("n"))
                .containsEntry("by", text("Imre"))
                .containsEntry("cost", text("c"));
    }

    @Test
    void everythingIsTheFormItself() {
        var whole = Narrowing.of(FORM, TABLE, Door.everything("notes"));
        assertThat(whole.shown()).isSameAs(FORM);
        assertThat(whole.table()).isSameAs(TABLE);
    }

    @Test
    void whatOfADoorDoesNotFitIsToldInSentences() {
        var door = new Door(
                "a-door",
                "A door",
                "notes",
                Who.of("Volunteers"),
                Set.of(May.CHANGE),
                new InView(List.of("river:x", "site:"), false),
                Map.of("note", "nothing like a formula (", "gone", "1"),
                new Fields(Set.of("also_gone"), Set.of()),
                new Keying(Door.Lines.MANY, Set.of("once_there"), Door.Keep.ALL),
                0,
                false,
                Done.STAY);
        var plan = EntryPlan.of(Narrowing.of(FORM, TABLE, door).saving(), TABLE);
        assertThat(DoorFrays.of(door, FORM, TABLE, plan, LocalDateTime.now()))
                .hasSize(7)
                .anySatisfy(each -> assertThat(each).contains("river:x"))
                .anySatisfy(each -> assertThat(each).contains("cannot be filled in"))
                .anySatisfy(each -> assertThat(each).contains("must see them"));
    }
}
