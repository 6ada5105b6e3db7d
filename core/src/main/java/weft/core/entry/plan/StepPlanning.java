package weft.core.entry.plan;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.entry.plan.ReadyStep.When;
import weft.core.formula.Formula;
import weft.core.rule.Command;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Table;

/** Makes the steps of a form ready. */
final class StepPlanning {

    private final Table table;
    private final RuleReader reader;

    StepPlanning(Table table, RuleReader reader) {
        this.table = table;
        this.reader = reader;
    }

    /** The steps that can be followed, by where they are. */
    Map<String, List<ReadyStep>> ready(List<Steps> all) {
        var ready = new LinkedHashMap<String, List<ReadyStep>>();
        all.forEach(this::saving);
        all.forEach(each -> ready.put(
                each.when(),
                each.steps().stream()
                        .flatMap(step -> ready(each.when(), step).stream())
                        .toList()));
        return ready;
    }

    /** What a button's steps write goes with its entry, and so needs one that is saved. */
    private void saving(Steps each) {
        boolean ofSave = each.when().equals(Steps.SAVED) || each.when().equals(Steps.CHANGED);
        boolean saves = each.steps().stream().anyMatch(step -> step.action().equals(new Step.Press(Command.SAVE)));
        boolean writes = each.steps().stream().map(Step::action).anyMatch(Step.Action::writes);
        if (writes && !saves && !ofSave) {
            reader.fault(
                    each.when(),
                    "The steps of this button write to other tables or send messages, but do not save. Add save.");
        }
    }

    /** The step made ready; empty when anything of it cannot be followed. */
    private Optional<ReadyStep> ready(String where, Step step) {
        return step.onlyIf().isBlank()
                ? ready(where, step, new When(step, Optional.empty()))
                : reader.formula(where, step.onlyIf())
                        .flatMap(onlyIf -> ready(where, step, new When(step, Optional.of(onlyIf))));
    }

    private Optional<ReadyStep> ready(String where, Step step, When when) {
        return switch (step.action()) {
            case Step.Press(var command) -> Optional.of(new ReadyStep.Press(when, command));
            case Step.Open(var form, var settings) ->
                all(settings.stream()
                                .map(each -> formula(where, each)
                                        .map(formula -> new ReadyStep.Begin(each.column(), formula))))
                        .map(begins -> new ReadyStep.Open(when, form, begins));
            case Step.SetField(var setting) -> set(where, table, setting).map(set -> new ReadyStep.SetField(when, set));
            case Step.AddRow(var to, var settings) ->
                reader.other(where, to)
                        .flatMap(other ->
                                sets(where, other, settings).map(values -> new ReadyStep.AddRow(when, other, values)));
            case Step.ChangeRow(var to, var found, var settings) -> {
                if (found.isEmpty()) {
                    reader.fault(where, "A step changes a row of %s, but does not say which.".formatted(to));
                }
                yield reader.other(where, to)
                        .flatMap(other -> sets(where, other, found)
                                .filter(which -> !which.isEmpty())
                                .flatMap(which -> sets(where, other, settings)
                                        .map(values -> new ReadyStep.ChangeRow(when, other, which, values))));
            }
            case Step.Send(var to, var subject, var text) ->
                reader.template(where, to)
                        .flatMap(readTo -> reader.template(where, subject)
                                .flatMap(readSubject -> reader.template(where, text)
                                        .map(readText -> new ReadyStep.Send(when, readTo, readSubject, readText))));
            case Step.Say(var text) -> reader.template(where, text).map(read -> new ReadyStep.Say(when, read));
            case Step.Ask(var id, var text, var usual) ->
                reader.template(where, text).map(read -> new ReadyStep.Ask(when, id, read, usual));
        };
    }

    private Optional<List<ReadyStep.Set>> sets(String where, Table of, List<Setting> settings) {
        return all(settings.stream().map(setting -> set(where, of, setting)));
    }

    private Optional<ReadyStep.Set> set(String where, Table of, Setting setting) {
        var column = reader.column(where, of, setting.column());
        return formula(where, setting).flatMap(formula -> column.map(found -> new ReadyStep.Set(found, formula)));
    }

    private Optional<Formula> formula(String where, Setting setting) {
        return reader.formula(where, setting.formula());
    }

    /** All of them, each looked at so that each says its fault; empty when one of them is. */
    private static <T> Optional<List<T>> all(Stream<Optional<T>> each) {
        var found = each.toList();
        return found.stream().allMatch(Optional::isPresent)
                ? Optional.of(found.stream().map(Optional::orElseThrow).toList())
                : Optional.empty();
    }
}
