package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import weft.core.form.Field.Widget;
import weft.core.form.Form.Section;
import weft.core.form.FormChanges.Change;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class FormChangesTest {

    private static Form form(List<? extends Item> items) {
        var table = new Table("t", "T", List.of(Column.plain("a", "A", ColumnType.TEXT)), Table.Placement.AFTER_LAST);
        return FormMaking.from(table, "t", Conventions.DEFAULT)
                .withSections(List.of(new Section("", 4, List.copyOf(items))));
    }

    private static Field field(String id) {
        return Field.plain(id, id.toUpperCase(), id, Widget.LINE, 3);
    }

    private static List<String> words(Form before, Form after) {
        return FormChanges.between(before, after).stream().map(Change::words).toList();
    }

    @Test
    void what_changed_is_said_in_words() {
        var before = form(List.of(field("a"), field("b"), field("c"), field("d")));
        var after = form(List.of(
                        field("d"),
                        field("a").labelled("Alpha").required(true),
                        field("b").threadedTo("c").wide(6),
                        field("e")))
                .named("t", "Trial");
        assertThat(words(before, after))
                .containsExactly(
                        "The form is called Trial, before T",
                        "C is taken off the form",
                        "A is called Alpha now",
                        "Alpha is needed",
                        "B writes to c, before to b",
                        "B is 6 wide, before 3",
                        "E is added",
                        "D is moved");
    }

    @Property(tries = 200)
    void nothing_changed_is_nothing_said_and_one_moved_is_one_said(
            @ForAll @IntRange(min = 3, max = 30) int count, @ForAll long seed) {
        var random = new Random(seed);
        var fields = IntStream.range(0, count).mapToObj(i -> field("f" + i)).toList();
        assertThat(words(form(fields), form(fields))).isEmpty();
        var shuffled = new ArrayList<>(fields);
        var moved = shuffled.remove(random.nextInt(count));
        shuffled.add(random.nextInt(count), moved);
        assertThat(words(form(fields), form(shuffled))).hasSizeLessThanOrEqualTo(1);
        Collections.shuffle(shuffled, random);
        assertThat(words(form(fields), form(shuffled))).hasSizeLessThan(count);
    }
}
