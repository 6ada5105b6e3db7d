package weft.core.entry.step;

import java.util.Locale;
import weft.core.rule.Step;

/** Steps as one reads them out. */
public final class StepWords {

    private StepWords() {}

    /** A step in a few words, such as "add a row to incidents". */
    public static String of(Step step) {
        return switch (step.action()) {
            case Step.Press(var action) ->
                action.name().toLowerCase(Locale.ROOT).replace('_', ' ');
            case Step.Open(var form, var _) -> "open the form " + form;
            case Step.SetField(var setting) -> "set " + setting.column();
            case Step.AddRow(var table, var _) -> "add a row to " + table;
            case Step.ChangeRow(var table, var _, var _) -> "change a row of " + table;
            case Step.Send(var to, var _, var _) -> "send a message to " + to;
            case Step.Say(var text) -> "say “" + text + "”";
            case Step.Ask(var _, var text, var _) -> "ask “" + text + "”";
        };
    }
}
