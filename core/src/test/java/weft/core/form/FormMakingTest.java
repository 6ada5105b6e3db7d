package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import weft.core.find.Sort;
import weft.core.form.Field.Widget;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class FormMakingTest {

    static Column column(String name, String title, ColumnType type, int usualLength) {
        var choices = type == ColumnType.CHOICE ? List.of("low", "high") : List.<String>of();
        return Column.plain(name, title, type).of(choices).usually(OptionalInt.of(usualLength));
    }

    private static Form form(List<Column> columns) {
        return FormMaking.from(new Table("t", "T", columns, Table.Placement.AFTER_LAST), "t", Conventions.DEFAULT);
    }

    @Test
    void aUnitInTheTitleGoesIntoTheField() {
        var field = form(List.of(column("water", "Water (°C)", ColumnType.DECIMAL, 4)))
                .fields()
                .findFirst()
                .orElseThrow();
        assertThat(field.label()).isEqualTo("Water");
        assertThat(field.unit()).isEqualTo("°C");
        assertThat(field.widget()).isEqualTo(Widget.NUMBER);
    }

    @Test
    void aWideTableIsGroupedByTheFirstWordOfItsTitles() {
        var columns = Stream.of(
                        "Reach code",
                        "Reach name",
                        "Reach date",
                        "Channel width",
                        "Channel depth",
                        "Channel shape",
                        "Surveyor",
                        "Weather")
                .flatMap(title -> IntStream.range(0, 3).mapToObj(n -> title + (n == 0 ? "" : " " + n)))
                .map(title -> column(title.toLowerCase().replace(' ', '_'), title, ColumnType.TEXT, 20))
                .toList();
        assertThat(form(columns).sections().stream().map(Form.Section::title))
                .containsExactly("Reach", "Channel", "Surveyor", "Weather");
    }

    @Property
    void everyColumnGetsOneFieldInOrderAndEveryLineFitsTheGrid(@ForAll("tables") List<Column> columns) {
        var form = form(columns);
        assertThat(form.fields().map(Field::column))
                .containsExactlyElementsOf(columns.stream().map(Column::name).toList());
        for (var section : form.sections()) {
            assertThat(section.items()).hasSizeLessThanOrEqualTo(44).isNotEmpty();
            int used = 0;
            for (var field : section.items()) {
                assertThat(field.width()).isBetween(3, 12);
                used = used + field.width() > 12 ? field.width() : used + field.width();
            }
        }
        assertThat(form.sections().size() == 1 || columns.size() > 14).isTrue();
    }

    @Test
    void aNewFieldLooksLikeTheNeighbourItIsPutBesideAndGetsAnIdOfItsOwn() {
        var made = form(List.of(column("a", "A", ColumnType.TEXT, 10), column("b", "B", ColumnType.WHOLE, 10)));
        var wide = made.withFields(field -> field.wide(5));
        var fresh = Field.plain("a", "Again", "a", Widget.LINE, 3);
        var beside = Placing.after(wide, "a", List.of(fresh, fresh));
        assertThat(beside.items().map(Item::id)).containsExactly("a", "a_2", "a_3", "b");
        assertThat(beside.items().map(Item::width)).containsExactly(5, 5, 5, 5);
        assertThat(Placing.atEnd(wide, List.of(fresh)).items().map(Item::id)).containsExactly("a", "b", "a_2");
    }

    @Test
    void aFormFollowsItsColumnsWhenTheyAreRenamed() {
        var table = new Table(
                "t",
                "T",
                List.of(Column.plain("acidity", "pH", ColumnType.DECIMAL).once(List.of("ph"))),
                Table.Placement.AFTER_LAST);
        var form = form(List.of(Column.plain("ph", "pH", ColumnType.DECIMAL)))
                .ordered(Sort.by(List.of(new Sort.Level("ph", true))))
                .following(table);
        assertThat(form.fields().map(Field::column)).containsExactly("acidity");
        assertThat(form.order().levels()).containsExactly(new Sort.Level("acidity", true));
    }

    @Provide
    Arbitrary<List<Column>> tables() {
        var types = Arbitraries.of(ColumnType.values());
        var words = Arbitraries.of("Reach", "Channel", "Bank left", "Depth (m)", "A rather long heading for a column");
        return Combinators.combine(types, words, Arbitraries.integers().between(1, 200))
                .as((type, word, length) -> column("c", word, type, length))
                .list()
                .ofMinSize(1)
                .ofMaxSize(60)
                .map(list -> IntStream.range(0, list.size())
                        .mapToObj(i -> column(
                                "c" + i,
                                list.get(i).title(),
                                list.get(i).type(),
                                list.get(i).usualLength().getAsInt()))
                        .toList());
    }

    @Test
    void numbered_columns_that_bear_no_telling_name_stand_in_sections_of_some_ten() {
        var columns = java.util.stream.IntStream.rangeClosed(1, 44)
                .mapToObj(n -> Column.plain("item_" + n, "Item " + n, ColumnType.TEXT))
                .toList();
        var sections = form(columns).sections();
        assertThat(sections).extracting(section -> section.items().size()).containsExactly(8, 9, 9, 9, 9);
        assertThat(sections.getFirst().title()).isEqualTo("Item 1 to item 8");
    }
}
