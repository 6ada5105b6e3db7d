package weft.core.sentence;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Table;

/**
 * Formulas, and texts with formulas in braces, with the columns in them as they are called now. Names that a formula gives itself
 * (in a loop, a function or a context) are left as they are, and so is what is quoted.
 *
 * @param table whose columns the formulas speak of
 * @param others tables by name, for what links lead to
 */
record NamesNow(Table table, Function<String, Optional<Table>> others) {

    private static final String NAME = "[\\p{L}_][\\p{L}\\p{N}_]*";
    /** What is quoted, or a name with what may stand behind its point, that is no call of a function. */
    private static final Pattern WORD = Pattern.compile("\"(?:[^\"\\\\]|\\\\.)*\"|(?<![.\\p{L}\\p{N}_])(" + NAME
            + ")(?:\\.(" + NAME + "))?(?![\\p{L}\\p{N}_]|\\s*\\()");

    private static final Pattern GIVEN =
            Pattern.compile("(" + NAME + ")\\s+in\\b|(" + NAME + ")\\s*:|function\\s*\\(([^)]*)\\)");
    private static final Pattern BRACED = Pattern.compile("\\{([^}]*)\\}");

    String formula(String formula) {
        var given = given(formula);
        return WORD.matcher(formula).replaceAll(found -> {
            var name = found.group(1);
            if (name == null || given.contains(name)) {
                return Matcher.quoteReplacement(found.group());
            }
            var now = table.column(name).map(Column::name).orElse(name);
            var behind = found.group(2);
            return behind == null ? now : now + "." + linked(name, behind);
        });
    }

    private String linked(String link, String behind) {
        return table.column(link)
                .flatMap(Column::link)
                .map(Link::to)
                .flatMap(others)
                .flatMap(other -> other.column(behind))
                .map(Column::name)
                .orElse(behind);
    }

    private static Set<String> given(String formula) {
        var names = new HashSet<String>();
        GIVEN.matcher(formula).results().forEach(found -> {
            for (int group = 1; group <= 3; group++) {
                if (found.group(group) != null) {
                    names.addAll(List.of(found.group(group).split("[\\s,]+")));
                }
            }
        });
        return names;
    }

    String text(String text) {
        return BRACED.matcher(text).replaceAll(found -> Matcher.quoteReplacement("{" + formula(found.group(1)) + "}"));
    }

    Step step(Step step) {
        return new Step(
                formula(step.onlyIf()),
                switch (step.action()) {
                    case Step.Open(var form, var values) -> new Step.Open(form, settings(values));
                    case Step.SetField(var value) -> new Step.SetField(setting(value));
                    case Step.AddRow(var to, var values) -> new Step.AddRow(to, settings(values));
                    case Step.ChangeRow(var to, var where, var values) ->
                        new Step.ChangeRow(to, settings(where), settings(values));
                    case Step.Send(var to, var subject, var text) -> new Step.Send(text(to), text(subject), text(text));
                    case Step.Say(var text) -> new Step.Say(text(text));
                    case Step.Ask(var id, var text, var usual) -> new Step.Ask(id, text(text), usual);
                    case Step.Press press -> press;
                });
    }

    private List<Step.Setting> settings(List<Step.Setting> settings) {
        return settings.stream().map(this::setting).toList();
    }

    private Step.Setting setting(Step.Setting setting) {
        return new Step.Setting(setting.column(), formula(setting.formula()));
    }
}
