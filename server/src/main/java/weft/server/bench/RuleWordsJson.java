package weft.server.bench;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weft.core.form.Form;
import weft.core.form.RuleWords;
import weft.core.rule.StepWords;

/**
 * The rules of a form in words.
 *
 * @param checks by the id of each check
 * @param fills by the id of each fill
 * @param lists of each choice list, in their order
 * @param steps of each step, in their order, by where they are
 * @param marks what rules do with each field, in a word, by column
 */
record RuleWordsJson(
        Map<String, String> checks,
        Map<String, String> fills,
        List<String> lists,
        Map<String, List<String>> steps,
        Map<String, String> marks) {

    static RuleWordsJson of(Form form) {
        var words = new RuleWords(form);
        var rules = form.rules();
        var checks = new LinkedHashMap<String, String>();
        rules.checks().forEach(check -> checks.put(check.id(), words.check(check.rule())));
        var fills = new LinkedHashMap<String, String>();
        rules.fills().forEach(fill -> fills.put(fill.id(), words.fill(fill)));
        var steps = new LinkedHashMap<String, List<String>>();
        rules.steps()
                .forEach(each -> steps.put(
                        each.when(), each.steps().stream().map(StepWords::of).toList()));
        return new RuleWordsJson(
                checks, fills, rules.choices().stream().map(words::list).toList(), steps, words.marks());
    }
}
