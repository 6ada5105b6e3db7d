package weft.core.find;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class ViewTest {

    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("taken_on", "Taken on", ColumnType.DATE)),
            Table.Placement.AFTER_LAST);

    @Test
    void an_order_is_said_in_words_and_spelled_as_it_was_read() {
        var sort = Sort.read("-taken_on,site", SAMPLES);
        assertThat(sort.words(SAMPLES, Column::title)).isEqualTo("Taken on, newest first; then Site");
        assertThat(sort.wire()).isEqualTo("-taken_on,site");
        assertThat(sort.rowsDown()).isFalse();
        assertThat(Sort.read("-row", SAMPLES)).isEqualTo(new Sort(List.of(), true));
        assertThat(Sort.read("", SAMPLES)).isEqualTo(Sort.BY_ROW);
    }

    @Test
    void an_order_by_what_is_no_column_is_refused_by_name() {
        assertThatThrownBy(() -> Sort.read("-taken,site", SAMPLES))
                .isInstanceOf(Faults.class)
                .hasMessage("There is no column “taken” to sort by.");
        assertThatThrownBy(() -> Sort.read("site,-site", SAMPLES)).hasMessage("“site” is there twice; once is enough.");
    }

    @Test
    void a_view_says_what_is_asked() {
        var site = SAMPLES.columns().getFirst();
        var view = new View(
                List.of(
                        new View.Condition(site, "Site", new Criterion.Like(List.of("QB"), true, false)),
                        new View.Condition(site, "Remark", new Criterion.Not(new Criterion.Empty()))),
                Optional.of(new View.Anywhere("perch", List.of())),
                Sort.BY_ROW);
        assertThat(view.words()).isEqualTo("Site begins with QB, and Remark is filled, and “perch” in any field");
    }

    @Test
    void a_position_is_exact_or_says_that_the_total_is_not() {
        var some = Total.exactly(212);
        assertThat(Position.of(90, some, OptionalLong.of(13), OptionalLong.empty())
                        .words(Conventions.DEFAULT))
                .isEqualTo("14 of 212");
        assertThat(Position.of(1_000_000, Total.exactly(1_000_000), OptionalLong.empty(), OptionalLong.of(0))
                        .words(Conventions.DEFAULT))
                .isEqualTo("1,000,000 of 1,000,000");
        assertThat(Position.of(734_112, Total.about(52_499), OptionalLong.empty(), OptionalLong.of(3))
                        .words(Conventions.DEFAULT))
                .isEqualTo("row 734,112 of about 52,000");
    }

    @Test
    void an_estimate_is_never_below_what_was_counted() {
        assertThat(Total.about(17)).isEqualTo(new Total(10_000, false));
        assertThat(Total.about(1_234_567).words(Conventions.DEFAULT)).isEqualTo("about 1,200,000");
        var comma = new Conventions(Conventions.DayOrder.DAY_FIRST, Conventions.DecimalSign.COMMA);
        assertThat(Total.about(1_234_567).words(comma)).isEqualTo("about 1.200.000");
    }
}
