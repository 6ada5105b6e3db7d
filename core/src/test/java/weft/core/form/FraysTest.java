package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import weft.core.form.Field.Start;
import weft.core.form.Field.Use;
import weft.core.form.Field.Widget;
import weft.core.form.Form.Section;
import weft.core.rule.Command;
import weft.core.rule.Derived;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Wire;

class FraysTest {

    private static final LocalDateTime NOW = LocalDateTime.parse("2026-11-23T10:00");

    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("site", "Site", ColumnType.TEXT).required(true),
                    Column.plain("ph", "pH", ColumnType.DECIMAL),
                    Column.plain("taken_on", "Taken on", ColumnType.DATE)),
            Table.Placement.AFTER_LAST);

    private static final Field SITE = Field.plain("site", "Site", "site", Widget.LINE, 3);
    private static final Field PH = Field.plain("ph", "pH", "ph", Widget.NUMBER, 3);

    private static Form form(Item... items) {
        return FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT)
                .withSections(List.of(new Section("", 4, List.of(items))));
    }

    private static List<Fray> frays(Form form) {
        return Frays.of(form, SAMPLES, NOW);
    }

    private static Rules shownOnlyIf(String column, String formula) {
        var shown = new Derived(column, Derived.Decides.SHOWN, formula);
        return new Rules(List.of(), List.of(), List.of(shown), List.of(), List.of(), List.of(), List.of());
    }

    static Stream<Arguments> frayed() {
        return Stream.of(
                Arguments.of("gone", true, form(SITE, PH.threadedTo("acidity"))),
                Arguments.of("type", true, form(SITE, PH.typedInto(Widget.DATE))),
                Arguments.of("needed", true, form(PH)),
                Arguments.of("never", true, form(SITE.used(Use.LOCKED), PH)),
                Arguments.of("hidden", true, form(SITE, PH).ruled(shownOnlyIf("site", "ph > 7"))),
                Arguments.of("twice", true, form(SITE, PH, PH.named("ph_2").labelled("Acidity"))),
                Arguments.of("begins", true, form(SITE, PH.begun(new Start("much", false, false)))),
                Arguments.of("label", false, form(SITE, PH.labelled(" "))),
                Arguments.of("alike", false, form(SITE, PH.labelled("site"))),
                Arguments.of("help", false, form(SITE, PH.helped("PH."))),
                Arguments.of("jumps", false, form(SITE, PH.begun(new Start("", false, true)))),
                Arguments.of(
                        "firsts",
                        false,
                        form(SITE.begun(new Start("", false, true)), PH.begun(new Start("", false, true)))),
                Arguments.of("picture", false, form(SITE, new Picture("p", "", "", 3, 3))),
                Arguments.of("gone", true, form(SITE, new Calculated("c", "Acidity", "acidity", 3))),
                Arguments.of("gone", true, form(SITE, new Calculated("c", "Age", "", 3))),
                Arguments.of(
                        "opens", true, form(SITE, new Button("b", "Note", "", Command.OPEN, "", Button.Key.NONE, 2))));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("frayed")
    void each_fault_is_one_fray_that_one_press_mends(String kind, boolean bites, Form form) {
        assertThat(frays(form)).singleElement().satisfies(fray -> {
            assertThat(fray.id()).startsWith(kind + " ");
            assertThat(fray.bites()).isEqualTo(bites);
            assertThat(fray.sentence()).endsWith(".");
            var mended = fray.mend().orElseThrow().change().apply(form);
            assertThat(frays(mended)).isEmpty();
        });
    }

    @Test
    void a_form_without_an_open_field_takes_nothing() {
        var shut = form(SITE.used(Use.LOCKED).begun(new Start("QB-03", false, false)), PH.used(Use.HIDDEN));
        assertThat(frays(shut)).extracting(Fray::id).containsExactly("nothing");
    }

    @Test
    void a_form_as_it_is_made_of_any_table_has_no_fray() {
        var all = new ArrayList<Column>();
        for (var type : ColumnType.values()) {
            all.add(Column.plain(Wire.word(type), type.inWords(), type)
                    .required(true)
                    .of(type == ColumnType.CHOICE ? List.of("a") : List.of()));
        }
        var table = new Table("t", "T", all, Table.Placement.AFTER_LAST);
        assertThat(Frays.of(FormMaking.from(table, "t", Conventions.DEFAULT), table, NOW))
                .isEmpty();
    }

    @Test
    void two_buttons_cannot_wait_for_one_key() {
        var save = new Button("s", "Save", "", Command.SAVE, "", Button.Key.ENTER, 2);
        assertThat(frays(form(SITE, save, save.named("t"))))
                .extracting(Fray::id)
                .containsExactly("key t");
    }
}
