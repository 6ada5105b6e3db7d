package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.entry;

import java.util.List;
import org.junit.jupiter.api.Test;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Command;
import weft.core.rule.Fill;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.StepWords;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class RuleWordsTest {

    private static final Table TABLE = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("ph", "pH", ColumnType.DECIMAL),
                    Column.plain("name", "NAME", ColumnType.TEXT)),
            Table.Placement.AFTER_LAST);

    private static final Fill OF_SITE = new Fill(
            "of-site",
            "sites",
            List.of(new Tie("site", "code")),
            List.of(new Tie("name", "name")),
            Fill.None.ASK,
            Fill.Several.CHOOSE,
            false);

    private static final Choices SITES = new Choices("site", "sites", "code", "", List.of(), false);

    private static final Form FORM = FormMaking.from(TABLE, "samples", Conventions.DEFAULT)
            .ruled(new Rules(
                    List.of(new Check("rare", new Check.Range("ph", "6", "9"), true, false, "")),
                    List.of(OF_SITE),
                    List.of(),
                    List.of(SITES),
                    List.of(),
                    List.of(),
                    List.of()));

    private static final RuleWords WORDS = new RuleWords(FORM);

    @Test
    void aCheckIsToldByTheLabelsOfItsFields() {
        assertThat(WORDS.check(new Check.Range("ph", "6", "9"))).isEqualTo("pH is between 6 and 9");
        assertThat(WORDS.check(new Check.Range("ph", "6", ""))).isEqualTo("pH is at least 6");
        assertThat(WORDS.check(new Check.Range("ph", "", "9"))).isEqualTo("pH is at most 9");
        assertThat(WORDS.check(new Check.Range("ph", "", ""))).isEqualTo("pH is at most …");
        assertThat(WORDS.check(new Check.AnyOf(List.of("site", "ph")))).isEqualTo("at least one of Site, pH is filled");
        assertThat(WORDS.check(new Check.Length("site", 2, 0))).isEqualTo("Site has 2 or more characters");
        assertThat(WORDS.check(new Check.Length("site", 2, 5))).isEqualTo("Site has 2 to 5 characters");
        assertThat(WORDS.check(new Check.Complete(List.of()))).isEqualTo("everything is filled");
        assertThat(WORDS.check(new Check.Needs("ph", "site"))).isEqualTo("pH needs Site too");
        assertThat(WORDS.check(new Check.OneOf("site", List.of("a", "b")))).isEqualTo("Site is one of a, b");
        assertThat(WORDS.check(new Check.Holds("ph > 1", "ph"))).isEqualTo("ph > 1");
    }

    @Test
    void fillsListsAndConstraintsAreToldByWhatTheyTie() {
        assertThat(WORDS.fill(OF_SITE)).isEqualTo("Site brings NAME in from sites");
        assertThat(WORDS.list(SITES)).isEqualTo("Site is one of sites");
        assertThat(RuleWords.constraint(new Constraint.Unique("1", List.of("site", "ph"), ""), TABLE))
                .isEqualTo("No two records are alike in Site, pH");
        assertThat(RuleWords.constraint(new Constraint.NoOverlap("2", List.of("site"), "ph", "name", ""), TABLE))
                .isEqualTo("pH to NAME never overlap for the same Site");
    }

    @Test
    void eachFieldIsMarkedWithWhatIsDoneToIt() {
        assertThat(WORDS.marks()).containsOnly(entry("ph", "check"), entry("site", "list"), entry("name", "fill"));
    }

    @Test
    void stepsAreReadOutAndWhatIsNotSaidYetIsLeftOpen() {
        assertThat(words(new Step.ChangeRow("sites", List.of(), List.of())))
                .isEqualTo("change the matching row of sites");
        assertThat(words(new Step.Send("", "", ""))).isEqualTo("send a message to …");
        assertThat(words(new Step.Press(Command.PUT_BACK))).isEqualTo("put the record back");
        assertThat(words(new Step.Press(Command.SAVE))).isEqualTo("save");
    }

    private static String words(Step.Action action) {
        return StepWords.of(new Step("", action));
    }
}
