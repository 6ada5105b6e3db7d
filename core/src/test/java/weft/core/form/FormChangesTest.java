package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Function;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import weft.core.form.Field.Widget;
import weft.core.form.Form.Section;
import weft.core.form.FormChanges.ItemChange;
import weft.core.form.FormChanges.Kind;
import weft.core.form.FormChanges.Worded;
import weft.core.rule.Check;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class FormChangesTest {

    private static final Table TABLE =
            new Table("t", "T", List.of(Column.plain("a", "A", ColumnType.TEXT)), Table.Placement.AFTER_LAST);

    private static Form form(List<? extends Item> items) {
        return FormMaking.from(TABLE, "t", Conventions.DEFAULT)
                .withSections(List.of(new Section("", 4, List.copyOf(items))));
    }

    private static Field field(String id) {
        return Field.plain(id, id.toUpperCase(), id, Widget.LINE, 3);
    }

    private static List<String> words(Form before, Form after) {
        return changes(before, after).stream().map(ItemChange::words).toList();
    }

    private static List<ItemChange> changes(Form before, Form after) {
        Function<String, Optional<Table>> none = _ -> Optional.empty();
        return FormChanges.between(Worded.of(before, TABLE, none), Worded.of(after, TABLE, none));
    }

    @Test
    void rules_are_told_by_their_sentences_with_what_they_were_before() {
        var form = form(List.of(field("a"), field("b")));
        var rare = new Check("rare", new Check.Range("a", "6", "9"), true, false, "");
        var wider = new Check("rare", new Check.Range("a", "5", "9"), true, false, "");
        var needs = new Check("needs", new Check.Needs("a", "b"), false, false, "");
        var first = form.ruled(checking(rare, needs));

        assertThat(changes(form, first))
                .containsExactly(
                        new ItemChange(Kind.RULES, "a", "asks unless A is between 6 and 9", ""),
                        new ItemChange(Kind.RULES, "a", "stops unless A needs B", ""));
        assertThat(changes(first, form.ruled(checking(needs, wider))))
                .containsExactly(new ItemChange(
                        Kind.RULES, "a", "asks unless A is between 5 and 9", "asks unless A is between 6 and 9"));
        assertThat(changes(first, form.ruled(checking(needs))))
                .containsExactly(new ItemChange(Kind.RULES, "a", "no more: asks unless A is between 6 and 9", ""));
    }

    private static Rules checking(Check... checks) {
        return new Rules(List.of(checks), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());
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
