package weft.server.entry;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import weft.core.entry.step.StepRun.Then;
import weft.core.rule.Command;

/**
 * Something that the Desk does after a step: presses a button, opens a form, or says something.
 *
 * @param act "press", "open" or "say"
 * @param press what is pressed, or none
 * @param form the form that is opened, or none
 * @param values what its new entry begins with
 * @param text what is said, or none
 */
record ThenJson(
        String act,
        @Nullable String press,
        @Nullable String form,
        Map<String, String> values,
        @Nullable String text) {

    static List<ThenJson> of(List<Then> then) {
        return then.stream()
                .filter(each -> !each.equals(new Then.Press(Command.SAVE)))
                .map(ThenJson::of)
                .toList();
    }

    private static ThenJson of(Then then) {
        return switch (then) {
            case Then.Press(var action) ->
                new ThenJson("press", action.name().toLowerCase(Locale.ROOT).replace('_', '-'), null, Map.of(), null);
            case Then.Open(var form, var values) -> new ThenJson("open", null, form, values, null);
            case Then.Say(var text) -> new ThenJson("say", null, null, Map.of(), text);
        };
    }
}
