package weft.store.form;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.core.form.Button;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.form.Picture;
import weft.core.form.Words;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Command;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Practice;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Wire;

class FormJsonTest {

    private static final String DOCUMENT = FormJson.write(FormMaking.from(
            new Table(
                    "samples",
                    "Samples",
                    Arrays.stream(ColumnType.values())
                            .map(type -> Column.plain(Wire.word(type), type.inWords(), type)
                                    .required(true)
                                    .of(List.of("a")))
                            .toList(),
                    Table.Placement.AFTER_LAST),
            "samples",
            Conventions.DEFAULT));

    private static FormDocument read(String json) {
        return FormDocument.read((ObjectNode) JsonMapper.shared().readTree(json));
    }

    @Test
    void aDocumentPassesItsSchemaAndComesBackTheSame() {
        assertThat(read(DOCUMENT).json()).isEqualTo(DOCUMENT);
    }

    @Test
    void whatIsNoFormIsRefusedWithThePlaceOfEachFault() {
        var bad = DOCUMENT.replace("\"density\":\"regular\"", "\"density\":\"loose\"")
                .replaceFirst("\"width\":\\d+", "\"width\":13");
        assertThatThrownBy(() -> read(bad))
                .isInstanceOfSatisfying(
                        Faults.class,
                        faults -> assertThat(faults.faults())
                                .extracting(Faults.Fault::where)
                                .containsExactlyInAnyOrder("/density", "/sections/0/items/0/width"));
    }

    @Test
    void aDocumentOfTheFirstVersionOfTheFormatIsStillRead() {
        var first = """
                {"format":"weft-form","formatVersion":1,"id":"old","title":"Old","table":"samples","dayOrder":"day-first",
                 "decimalSign":"comma","enter":"moves-on","density":"tight","sections":[{"title":"One","fields":[
                 {"id":"ph","label":"pH","column":"ph","widget":"number","width":3,"required":true}]}]}""";
        var form = read(first).form();
        assertThat(form.fields()).singleElement().satisfies(field -> {
            assertThat(field.required()).isTrue();
            assertThat(field.use()).isEqualTo(Field.Use.OPEN);
        });
        assertThat(form.enter()).isEqualTo(Form.Enter.MOVES_ON);
        assertThat(FormJson.write(form)).contains("\"formatVersion\":3");
    }

    @Test
    void everyKindOfItemComesBackTheSame() {
        var form = FormJson.read(DOCUMENT)
                .withSections(List.of(new Form.Section(
                        "All",
                        2,
                        List.of(
                                new Words("h", Words.Kind.HEADING, "Depth", 12, 1),
                                new Words("d", Words.Kind.DIVIDER, "", 12, 1),
                                new Picture("p", "data:image/png;base64,iVBORw0KGgo=", "the weir", 4, 6),
                                new Calculated("c", "pH again", "decimal", 3),
                                new Button("b", "Note", "open", Command.OPEN, "notes", Button.Key.ESC, 3),
                                Field.plain("f", "pH", "decimal", Field.Widget.NUMBER, 3)
                                        .used(Field.Use.LOCKED)
                                        .begun(new Field.Start("7", true, true))
                                        .typed(new Field.Keys("9.9", true, 3))
                                        .looking(new Field.Look(
                                                Field.LabelPlace.LEFT,
                                                "about 7",
                                                Field.Size.LARGE,
                                                true,
                                                Field.Tone.WOAD))))));
        assertThat(read(FormDocument.checked(form).json()).form()).isEqualTo(form);
    }

    private static final List<Step.Setting> SETTINGS = List.of(new Step.Setting("ph", "ph + 1"));
    private static final List<Fill.Tie> TIES = List.of(new Fill.Tie("site", "code"));

    @Test
    void everyKindOfRuleComesBackTheSame() {
        var checks = Stream.of(
                        new Check.AnyOf(List.of("a", "b")),
                        new Check.Range("a", "6", "9"),
                        new Check.Length("a", 2, 8),
                        new Check.Matches("a", "[A-Z]{2}"),
                        new Check.OneOf("a", List.of("x", "y, z")),
                        new Check.Needs("a", "b"),
                        new Check.Holds("a > 1", "a"),
                        new Check.Alike(List.of("a", "b"), true, true),
                        new Check.Usual("a", List.of(new Check.For("b", Check.For.Of.MONTH)), true),
                        new Check.Complete(List.of()))
                .map(rule -> new Check("c-" + rule.getClass().getSimpleName(), rule, true, false, "Say {a}."))
                .toList();
        var actions = List.of(
                new Step.Press(Command.PUT_BACK),
                new Step.Open("notes", SETTINGS),
                new Step.SetField(SETTINGS.getFirst()),
                new Step.AddRow("notes", SETTINGS),
                new Step.ChangeRow("notes", SETTINGS, List.of()),
                new Step.Send("{mail}", "About {ph}", "Text"),
                new Step.Say("done"),
                new Step.Ask("q", "Sure?", Step.Reply.CANCEL));
        assertThat(checks).hasSameSizeAs(Check.Rule.class.getPermittedSubclasses());
        assertThat(actions).hasSameSizeAs(Step.Action.class.getPermittedSubclasses());
        var rules = new Rules(
                checks,
                List.of(new Fill("f", "sites", TIES, TIES, Fill.None.STOP, Fill.Several.CHOOSE, true)),
                Arrays.stream(Derived.Decides.values())
                        .map(what -> new Derived("ph", what, "1 + 1"))
                        .toList(),
                List.of(new Choices("site", "sites", "code", "name", TIES, true)),
                List.of(new Numbering("number", "S-{year}-{0000}")),
                List.of(new Step.Steps(
                        Step.Steps.SAVED,
                        actions.stream()
                                .map(action -> new Step("ph > 1", action))
                                .toList())),
                List.of(new Practice(
                        "p",
                        "Practice",
                        Map.of("ph", "7"),
                        Map.of("incomplete", "yes"),
                        Practice.Outcome.ASKED,
                        "incomplete",
                        Map.of("ph", "7.0"))));
        var form = FormJson.read(DOCUMENT).ruled(rules);
        assertThat(read(FormDocument.checked(form).json()).form().rules()).isEqualTo(rules);
    }
}
