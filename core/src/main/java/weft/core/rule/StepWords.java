package weft.core.rule;

import java.util.Locale;

/** Steps as one reads them out, wherever they are told. */
public final class StepWords {

    private static final String NOT_SAID = "…";

    private StepWords() {}

    /** A step in a few words, such as "add a row to incidents". */
    public static String of(Step step) {
        return switch (step.action()) {
            case Step.Press(var command) ->
                command == Command.PUT_BACK
                        ? "put the record back"
                        : command.name().toLowerCase(Locale.ROOT).replace('_', ' ');
            case Step.Open(var form, var _) -> "open the form " + said(form);
            case Step.SetField(var setting) -> "set " + said(setting.column());
            case Step.AddRow(var table, var _) -> "add a row to " + said(table);
            case Step.ChangeRow(var table, var _, var _) -> "change the matching row of " + said(table);
            case Step.Send(var to, var _, var _) -> "send a message to " + said(to);
            case Step.Say(var text) -> "say “" + text + "”";
            case Step.Ask(var _, var text, var _) -> "ask “" + text + "”";
        };
    }

    private static String said(String name) {
        return name.isBlank() ? NOT_SAID : name;
    }
}
