package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.table.SeenTable;

@ExtendWith(TestDatabase.class)
class HistoryTest {

    private final Records records = new Records(TestDatabase.get().sql());

    @Test
    void history_tells_every_change_and_deleted_records_are_put_back() {
        var table = Given.table("first-free", "site text unique", "count whole", "ph decimal", "day date", "wet yesno");
        var history = new History(TestDatabase.get().sql());
        var values = values(
                "site", text("a"),
                "count", new Value.Whole(3),
                "ph", new Value.Decimal(new BigDecimal("7.4")),
                "day", new Value.Day(LocalDate.parse("2026-05-01")),
                "wet", new Value.YesNo(false));
        var made = Given.saved(table, values, Optional.empty(), "Odile");
        var changed = Given.changed(table, made.id(), 1, values("count", new Value.Whole(4)), "Bram");
        records.delete(table, made.id(), 2, "Imre");
        assertThat(history.removed(SeenTable.all(table), Optional.empty(), OptionalLong.empty(), 10))
                .singleElement()
                .satisfies(removed -> {
                    assertThat(removed.by()).isEqualTo("Imre");
                    assertThat(removed.values()).isEqualTo(ValuesJson.of(changed.values()));
                });
        var back = history.restore(SeenTable.all(table), made.id(), "Odile").orElseThrow();
        assertThat(back.values()).isEqualTo(changed.values());
        assertThat(back.row()).isEqualTo(made.row());
        assertThat(back.version()).isEqualTo(4);
        assertThat(history.restore(SeenTable.all(table), made.id(), "Odile")).isEmpty();
        assertThat(history.removed(SeenTable.all(table), Optional.empty(), OptionalLong.empty(), 10))
                .isEmpty();
        assertThat(history.of(SeenTable.all(table), made.id()))
                .extracting(entry -> entry.by() + " " + Wire.word(entry.action()) + " " + entry.version())
                .containsExactly("Odile restored 4", "Imre deleted 3", "Bram changed 2", "Odile saved 1");
        assertThat(history.values(SeenTable.all(table), made.id(), 1)).contains(values);

        // Its row is taken meanwhile, and then its unique value too.
        records.delete(table, made.id(), 4, "Imre");
        var other = Given.saved(table, values("site", text("b")), Optional.empty(), "Odile");
        assertThat(other.row()).isEqualTo(1);
        assertThat(history.restore(SeenTable.all(table), made.id(), "Odile")
                        .orElseThrow()
                        .row())
                .isEqualTo(2);
        records.delete(table, made.id(), 6, "Imre");
        Given.saved(table, values("site", text("a")), Optional.empty(), "Odile");
        assertThatThrownBy(() -> history.restore(SeenTable.all(table), made.id(), "Odile"))
                .isInstanceOf(NotSaved.class);
    }
}
