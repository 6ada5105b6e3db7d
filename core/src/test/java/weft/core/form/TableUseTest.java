package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import weft.core.form.TableUse.What;
import weft.core.rule.Choices;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class TableUseTest {

    @Test
    void saysEachThingThatAFormDoesWithATableOnce() {
        var list = new Choices("site", "sites", "code", "", List.of(), false);
        var write = new Step("", new Step.AddRow("repairs", List.of()));
        var lines = new FormLines(
                "counts", "Counts", "counts", "sample", List.of(), 1, 0, 0, List.of(), true, Rules.of(list));
        var steps = List.of(new Step.Steps(Step.Steps.SAVED, List.of(write, write)));
        var form = FormMaking.from(
                        new Table(
                                "samples",
                                "Samples",
                                List.of(Column.plain("site", "Site", ColumnType.TEXT)),
                                Table.Placement.AFTER_LAST),
                        "samples",
                        Conventions.DEFAULT)
                .ruled(new Rules(List.of(), List.of(), List.of(), List.of(), List.of(), steps, List.of()))
                .withSections(List.of(new Form.Section("", 1, List.of(lines))));
        assertThat(TableUse.of(form, "sites")).containsExactly(new TableUse("Samples", What.LIST));
        assertThat(TableUse.of(form, "counts")).containsExactly(new TableUse("Samples", What.LINES));
        assertThat(TableUse.of(form, "repairs")).containsExactly(new TableUse("Samples", What.HAND_ON));
        assertThat(TableUse.of(form, "samples")).isEmpty();
    }
}
