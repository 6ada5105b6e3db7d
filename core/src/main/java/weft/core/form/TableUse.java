package weft.core.form;

import java.util.List;
import java.util.stream.Stream;
import weft.core.rule.Step;

/**
 * What a form does with a table other than the one it writes to.
 *
 * @param form the title of the form
 */
public record TableUse(String form, What what) {

    /** What can be done with another table. */
    public enum What {
        /** Lines of the form are its records. */
        LINES,
        /** A fill brings its values in. */
        FILL,
        /** A field is chosen from a list of it. */
        LIST,
        /** A step writes a row to it. */
        HAND_ON
    }

    /** All that a form does with a table, each once. */
    public static List<TableUse> of(Form form, String table) {
        var lines = form.items()
                .filter(item -> item instanceof FormLines each && each.table().equals(table))
                .map(_ -> What.LINES);
        var rules = Stream.concat(
                        Stream.of(form.rules()),
                        form.items().filter(FormLines.class::isInstance).map(item -> ((FormLines) item).rules()))
                .toList();
        var fills = rules.stream()
                .flatMap(each -> each.fills().stream())
                .filter(fill -> fill.table().equals(table))
                .map(_ -> What.FILL);
        var lists = rules.stream()
                .flatMap(each -> each.choices().stream())
                .filter(list -> list.table().equals(table))
                .map(_ -> What.LIST);
        var handOns = rules.stream()
                .flatMap(each -> each.steps().stream())
                .flatMap(each -> each.steps().stream())
                .filter(step -> writesTo(step, table))
                .map(_ -> What.HAND_ON);
        return Stream.of(lines, fills, lists, handOns)
                .flatMap(each -> each)
                .distinct()
                .map(what -> new TableUse(form.title(), what))
                .toList();
    }

    private static boolean writesTo(Step step, String table) {
        return switch (step.action()) {
            case Step.AddRow add -> add.table().equals(table);
            case Step.ChangeRow change -> change.table().equals(table);
            case Step.Press _, Step.Open _, Step.SetField _, Step.Send _, Step.Say _, Step.Ask _ -> false;
        };
    }
}
