package weft.store.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Forms;
import weft.store.record.History;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.ValuesJson;

@ExtendWith(TestDatabase.class)
class ColumnsTest {

    private final DSLContext sql = TestDatabase.get().sql();
    private final Columns columns = new Columns(sql);
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
        return ValuesJson.of(records.find(now(), row).orElseThrow().values());
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
        columns.change(name, "code", Column.plain("tag", "Tag", ColumnType.TEXT).unique(true));
        assertThat(row(1)).containsEntry("tag", "a").doesNotContainKey("code");
        assertThat(new History(sql).of(now(), 1).getFirst().after().orElseThrow())
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
        columns.change(name, "tag", plain("code", ColumnType.TEXT));
        assertThat(column("code").former()).containsExactly("tag");
        save("site", text("x"), "code", text("a"));
    }

    @Test
    void anotherTypeTakesTheValuesAlongOrSaysWhichDoNotFit() {
        save("site", text("QB-01"), "depth", text("1.5"));
        save("site", text("QB-02"), "depth", text("deep"));
        var number = plain("depth", ColumnType.DECIMAL);
        var check = columns.check(name, "depth", number);
        assertThat(check.unfit()).isEqualTo(1);
        assertThat(check.examples()).singleElement().satisfies(example -> {
            assertThat(example.row()).isEqualTo(2);
            assertThat(example.value()).isEqualTo("deep");
        });
        assertThatThrownBy(() -> columns.change(name, "depth", number))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("1 record does not fit. Row 2");
        assertThat(row(2)).containsEntry("depth", "deep");

        Given.changed(now(), 2, 1, values("depth", text("2")), "tester");
        columns.change(name, "depth", number.within(Optional.of(new Value.Decimal(BigDecimal.ZERO)), Optional.empty()));
        assertThat(row(1)).containsEntry("depth", "1.5");
        assertThat(row(2)).containsEntry("depth", "2");
        assertThatThrownBy(() -> save("site", text("x"), "depth", new Value.Decimal(new BigDecimal("-1"))))
                .isInstanceOf(NotSaved.class);
        columns.change(name, "depth", plain("depth", ColumnType.TEXT));
        assertThat(row(1)).containsEntry("depth", "1.5");
    }

    @Test
    void rulesAreHeldOnlyWhereTheStoredValuesAllow() {
        save("site", text("QB-01"), "depth", text("low"));
        save("site", text("QB-01"));
        assertThat(columns.check(name, "site", column("site").unique(true)).unfit())
                .isEqualTo(1);
        assertThat(columns.check(name, "depth", column("depth").required(true)).words())
                .isEqualTo("1 record does not fit. Row 2: It has nothing here.");
        var choice = plain("depth", ColumnType.CHOICE);
        assertThat(columns.check(name, "depth", choice.of(List.of("high"))).unfit())
                .isEqualTo(1);
        columns.change(name, "depth", choice.of(List.of("low", "high")));
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
        assertThat(columns.dependents(name)).isEqualTo(new Columns.Dependents(1, List.of(form.title())));
        columns.delete(name);
        assertThat(new Tables(sql).find(name)).isEmpty();
        assertThat(forms.workingCopy(form.id())).isEmpty();
    }

    @Test
    void manyValuesAreTakenAlongIntoAnotherType() {
        sql.execute(
                "insert into {0} (_row, _version, _entered_by, site, depth) select n, 1, 'x', 's', n::text from generate_series(1, 12000) n",
                DSL.table(table.sqlName()));
        columns.change(name, "depth", plain("depth", ColumnType.WHOLE));
        assertThat(row(1)).containsEntry("depth", 1L);
        assertThat(row(12_000)).containsEntry("depth", 12_000L);
    }
}
