package weft.store.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Faults;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TableChanged;
import weft.store.TestDatabase;
import weft.store.find.Indexes;
import weft.store.form.Forms;
import weft.store.record.History;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.ValuesJson;

@ExtendWith(TestDatabase.class)
class ColumnsTest {

    private final DSLContext sql = TestDatabase.get().sql();
    private final Columns columns = new Columns(sql, Records::anyTable);
    private final Records records = new Records(TestDatabase.get().sql());
    private final Forms forms = new Forms(sql);
    private StoredTable table;
    private String name;

    @BeforeEach
    void given() {
        table = Given.table("after-last", "site text required", "depth text", "code text unique");
        name = table.definition().name();
    }

    private void save(Object... namesAndValues) {
        Given.saved(now(), values(namesAndValues), Optional.empty(), "tester");
    }

    private StoredTable now() {
        return new Tables(sql).find(name).orElseThrow();
    }

    private Map<String, Object> row(long row) {
        return ValuesJson.of(
                records.find(SeenTable.all(now()), row).orElseThrow().values());
    }

    private Column column(String column) {
        return now().definition().column(column).orElseThrow();
    }

    private static Column plain(String name, ColumnType type) {
        return Column.plain(name, name, type);
    }

    @Test
    void aRenamedColumnKeepsItsValuesItsHistoryItsRulesAndItsForms() {
        var form = forms.make(table, Conventions.DEFAULT).form();
        save("site", text("QB-03"), "code", text("a"));
        columns.change(name, "code", Column.plain("tag", "Tag", ColumnType.TEXT).unique(true), Optional.empty());
        assertThat(row(1)).containsEntry("tag", "a").doesNotContainKey("code");
        assertThat(new History(sql)
                        .of(SeenTable.all(now()), 1)
                        .getFirst()
                        .after()
                        .orElseThrow())
                .containsEntry("tag", "a");
        assertThat(forms.workingCopy(form.id()).orElseThrow().form().fieldOf("tag"))
                .isPresent();
        assertThat(forms.published(form.id()).orElseThrow().json()).contains("\"column\":\"tag\"");
        assertThatThrownBy(() -> save("site", text("x"), "tag", text("a")))
                .isInstanceOfSatisfying(
                        NotSaved.class, refused -> assertThat(refused.column()).contains("tag"));
        assertThatThrownBy(() -> columns.add(name, List.of(plain("code", ColumnType.TEXT))))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("Tag was once called code");
        columns.change(name, "tag", plain("code", ColumnType.TEXT), Optional.empty());
        assertThat(column("code").former()).containsExactly("tag");
        save("site", text("x"), "code", text("a"));
    }

    @Test
    void anotherTypeTakesTheValuesAlongOrSaysWhichDoNotFit() {
        save("site", text("QB-01"), "depth", text("1.5"));
        save("site", text("QB-02"), "depth", text("deep"));
        var number = plain("depth", ColumnType.DECIMAL);
        var check = columns.check(name, "depth", number, Optional.empty());
        assertThat(check.unfit()).isEqualTo(1);
        assertThat(check.examples()).singleElement().satisfies(example -> {
            assertThat(example.row()).isEqualTo(2);
            assertThat(example.value()).isEqualTo("deep");
        });
        assertThatThrownBy(() -> columns.change(name, "depth", number, Optional.empty()))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("1 record does not fit. Row 2");
        assertThat(row(2)).containsEntry("depth", "deep");

        Given.changed(now(), 2, 1, values("depth", text("2")), "tester");
        columns.change(
                name,
                "depth",
                number.within(Optional.of(new Value.Decimal(BigDecimal.ZERO)), Optional.empty()),
                Optional.empty());
        assertThat(row(1)).containsEntry("depth", "1.5");
        assertThat(row(2)).containsEntry("depth", "2");
        assertThatThrownBy(() -> save("site", text("x"), "depth", new Value.Decimal(new BigDecimal("-1"))))
                .isInstanceOf(NotSaved.class);
        columns.change(name, "depth", plain("depth", ColumnType.TEXT), Optional.empty());
        assertThat(row(1)).containsEntry("depth", "1.5");
    }

    @Test
    void rulesAreHeldOnlyWhereTheStoredValuesAllow() {
        save("site", text("QB-01"), "depth", text("low"));
        save("site", text("QB-01"));
        assertThat(columns.check(name, "site", column("site").unique(true), Optional.empty())
                        .unfit())
                .isEqualTo(1);
        assertThat(columns.check(name, "depth", column("depth").required(true), Optional.empty())
                        .words())
                .isEqualTo("1 record does not fit. Row 2: It has nothing here.");
        var choice = plain("depth", ColumnType.CHOICE);
        assertThat(columns.check(name, "depth", choice.of(List.of("high")), Optional.empty())
                        .unfit())
                .isEqualTo(1);
        columns.change(name, "depth", choice.of(List.of("low", "high")), Optional.empty());
        assertThatThrownBy(() -> save("site", text("QB-03"), "depth", text("deep")))
                .isInstanceOf(NotSaved.class);
        assertThatThrownBy(() ->
                        columns.add(name, List.of(plain("by", ColumnType.TEXT).required(true))))
                .hasMessageContaining("There are records already");
        columns.add(name, List.of(plain("wet", ColumnType.YESNO)));
        assertThat(row(1)).containsEntry("wet", null);
    }

    @Test
    void aRemovedColumnLeavesItsFormsAndATableGoesWithAllThatIsNamed() {
        var form = forms.make(table, Conventions.DEFAULT).form();
        save("site", text("QB-01"), "depth", text("1"));
        columns.remove(name, "depth");
        assertThat(row(1)).doesNotContainKey("depth");
        assertThat(forms.workingCopy(form.id()).orElseThrow().form().fieldOf("depth"))
                .isPresent();
        assertThat(columns.dependents(name)).isEqualTo(new Columns.Dependents(1, List.of(form.title()), List.of()));
        columns.delete(name);
        assertThat(new Tables(sql).find(name)).isEmpty();
        assertThat(forms.workingCopy(form.id())).isEmpty();
    }

    @Test
    void manyValuesAreTakenAlongIntoAnotherType() {
        sql.execute(
                "insert into {0} (_row, _version, _entered_by, site, depth) select n, 1, 'x', 's', n::text from generate_series(1, 12000) n",
                DSL.table(table.sqlName()));
        columns.change(name, "depth", plain("depth", ColumnType.WHOLE), Optional.empty());
        assertThat(row(1)).containsEntry("depth", 1L);
        assertThat(row(12_000)).containsEntry("depth", 12_000L);
    }

    @Test
    void datesAndNumbersOfAColumnAreReadInTheOneOrderThatIsAskedFor() {
        save("site", text("QB-01"), "depth", text("03/04/2026"));
        save("site", text("QB-02"), "depth", text("25/04/2026"));
        var date = plain("depth", ColumnType.DATE);
        var monthFirst = Optional.of(new Conventions(DayOrder.MONTH_FIRST, DecimalSign.POINT));
        assertThat(columns.check(name, "depth", date, monthFirst).words()).contains("Row 2");
        assertThatThrownBy(() -> columns.change(name, "depth", date, monthFirst))
                .isInstanceOf(Faults.class);
        columns.change(name, "depth", date, Optional.of(new Conventions(DayOrder.DAY_FIRST, DecimalSign.POINT)));
        assertThat(row(1)).containsEntry("depth", "2026-04-03");
        assertThat(row(2)).containsEntry("depth", "2026-04-25");

        columns.change(name, "site", plain("site", ColumnType.TEXT), Optional.empty());
        columns.add(name, List.of(plain("amount", ColumnType.TEXT)));
        Given.changed(now(), 1, 1, values("amount", text("1.200")), "tester");
        Given.changed(now(), 2, 1, values("amount", text("2,5")), "tester");
        var number = plain("amount", ColumnType.DECIMAL);
        assertThat(columns.check(name, "amount", number, monthFirst).words()).contains("Row 2");
        columns.change(name, "amount", number, Optional.of(new Conventions(DayOrder.MONTH_FIRST, DecimalSign.COMMA)));
        assertThat(row(1)).containsEntry("amount", "1200");
        assertThat(row(2)).containsEntry("amount", "2.5");
    }

    /** What the check says fits is what the change takes along, in a list as in another type. */
    @Test
    void aValueThatIsOnTheListInAnotherSpellingIsTakenAlongAsTheListHasIt() {
        save("site", text("QB-01"), "depth", text("Wet"));
        save("site", text("QB-02"), "depth", text("dry"));
        var list = plain("depth", ColumnType.CHOICE).of(List.of("wet", "dry"));
        assertThat(columns.check(name, "depth", list, Optional.empty()).unfit()).isZero();
        columns.change(name, "depth", list, Optional.empty());
        assertThat(row(1)).containsEntry("depth", "wet");
        assertThat(row(2)).containsEntry("depth", "dry");
    }

    /** An entry that comes between the look at the values and the change is kept, or the change is refused for it. */
    @Test
    void whatIsSavedWhileAColumnChangesIsNotLost() throws Exception {
        sql.execute(
                "insert into {0} (_row, _version, _entered_by, site, depth) select n, 1, 'x', 's', n::text from generate_series(1, 60000) n",
                DSL.table(table.sqlName()));
        sql.execute("update weft.row_counter set next_row = 60001 where table_id = {0}", DSL.val(table.id()));
        var before = now();
        int kept = 0;
        try (var pool = Executors.newSingleThreadExecutor()) {
            var change = pool.submit(
                    () -> columns.change(name, "depth", plain("depth", ColumnType.WHOLE), Optional.empty()));
            for (int i = 0; i < 400 && !change.isDone(); i++) {
                try {
                    Given.saved(before, values("site", text("racer"), "depth", text("deep")), Optional.empty(), "t");
                    kept++;
                } catch (TableChanged | DataAccessException changed) {
                    // Refused, and so not lost.
                }
            }
            try {
                change.get();
            } catch (ExecutionException refused) {
                assertThat(refused).cause().isInstanceOf(Faults.class).hasMessageContaining("not fit");
            }
        }
        assertThat(sql.fetchCount(DSL.table(table.sqlName()), DSL.condition("site = 'racer' and depth is not null")))
                .isEqualTo(kept);
    }

    private static Table linking(Table to) {
        return new Table(
                "linking",
                "Linking",
                List.of(plain("site", ColumnType.LINK)
                        .leading(new Link(to.name(), to.title(), Link.usual(to), Link.Removed.REFUSE))),
                Table.Placement.AFTER_LAST);
    }

    private void awaitWaitingFor(String what) {
        while (!sql.fetchExists(
                DSL.table("pg_stat_activity"),
                DSL.condition("datname = current_database() and wait_event = {0}", DSL.inline(what)))) {
            Thread.onSpinWait();
        }
    }

    /** An index that is being built waits for whoever changes its table, and they for it: neither fails for that. */
    @Test
    void aTableIsChangedWhileItsIndexesAreBuilt() throws Exception {
        sql.execute(
                "insert into {0} (_row, _version, _entered_by, site, depth) select i, 1, 't', 's' || i, 'd' || i"
                        + " from generate_series(1, 20000) i",
                DSL.table(table.sqlName()));
        forms.publish(forms.make(table, Conventions.DEFAULT).form().id(), "odile");
        var indexes = new Indexes(TestDatabase.get(), new Tables(sql), forms);
        var constraints = new Constraints(sql);
        var both = new Constraint.Unique("", List.of("site", "depth"), "");
        var ids = new ArrayList<String>();
        var changes = List.<Runnable>of(
                () -> ids.add(constraints.add(now(), both)),
                () -> columns.change(name, "depth", column("depth").required(true), Optional.empty()),
                () -> constraints.remove(now(), ids.getLast()),
                () -> columns.change(name, "depth", column("depth").required(false), Optional.empty()),
                () -> new Tables(sql).make(linking(now().definition())),
                () -> columns.delete("linking"));
        try (var others = Executors.newCachedThreadPool()) {
            for (var change : changes) {
                sql.fetch(
                                "select indexrelid::regclass::text from pg_index where indrelid = {0}::regclass"
                                        + " and not indisunique",
                                DSL.inline(sql.render(table.sqlName())))
                        .getValues(0, String.class)
                        .forEach(index -> sql.execute("drop index if exists " + index));
                var works = new ArrayList<Future<?>>();
                // Somebody's entry holds up both, so that the change waits for the index before that waits for it.
                sql.transaction(entering -> {
                    entering.dsl().execute("lock table {0} in row exclusive mode", DSL.table(table.sqlName()));
                    works.add(others.submit(() -> indexes.keep(now())));
                    awaitWaitingFor("virtualxid");
                    works.add(others.submit(change));
                    awaitWaitingFor("relation");
                });
                for (var work : works) {
                    work.get();
                }
            }
        }
        assertThat(now().definition().constraints()).isEmpty();
    }
}
