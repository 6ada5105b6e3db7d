package weft.core.entry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weft.core.entry.Finding.Code;
import weft.core.entry.Finding.Severity;
import weft.core.entry.Trace.Mark;
import weft.core.entry.Trace.Stage;
import weft.core.formula.Answer;
import weft.core.formula.Feel;
import weft.core.formula.Formula;
import weft.core.formula.Moment;
import weft.core.rule.Command;
import weft.core.rule.Step;
import weft.core.rule.Step.Reply;
import weft.core.table.Column;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Goes through a list of steps and says what they come to. It writes nothing itself. */
public final class StepRun {

    private final EntryPlan plan;
    private final Draft draft;
    private final StoredRows stored;
    private final Moment moment;
    private final Trace trace;
    private final Map<String, Object> known = new HashMap<>();
    private final List<Write> writes = new ArrayList<>();
    private final List<Then> then = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final Map<String, Value> set = new LinkedHashMap<>();
    private Optional<Question> question = Optional.empty();
    private boolean saves;

    StepRun(
            EntryPlan plan,
            Draft draft,
            Map<String, Value> values,
            long row,
            StoredRows stored,
            Moment moment,
            Trace trace) {
        this.plan = plan;
        this.draft = draft;
        this.stored = stored;
        this.moment = moment;
        this.trace = trace;
        plan.table().columns().forEach(column -> know(column, values.getOrDefault(column.name(), Value.EMPTY)));
        known.put("last", Feel.known(draft.around().last()));
        known.put("person", draft.around().person());
        known.put("answers", new HashMap<String, Object>(draft.around().answers()));
        known.put("row", row == 0 ? null : java.math.BigDecimal.valueOf(row));
    }

    /**
     * What steps come to.
     *
     * @param writes what is written beside the entry
     * @param then what the Desk does afterwards, in order
     * @param set the fields of the entry that are set
     * @param saves whether the entry itself is to be saved
     * @param question what must be answered before anything is written
     * @param findings what is in the way
     */
    public record Outcome(
            List<Write> writes,
            List<Then> then,
            Map<String, Value> set,
            boolean saves,
            Optional<Question> question,
            Findings findings) {}

    /** A question that is not answered yet. */
    public record Question(String id, String text, Reply usual) {}

    /** Something that the Desk does. */
    public sealed interface Then {

        /** What a button does by itself. */
        record Press(Command action) implements Then {}

        /** Opens a form, with values in its new entry as they would be typed. */
        record Open(String form, Map<String, String> values) implements Then {}

        /** Says something. */
        record Say(String text) implements Then {}
    }

    private void know(Column column, Value value) {
        var asKnown = Feel.known(value);
        known.put(column.name(), asKnown);
        column.former().forEach(name -> known.put(name, asKnown));
    }

    Outcome run(String when) {
        boolean skip = false;
        for (var step : plan.steps().getOrDefault(when, List.of())) {
            if (skip) {
                skip = false;
                trace.add(Stage.AFTER, Mark.DONE, when, () -> "Left out: " + StepWords.of(step.step()) + ".");
                continue;
            }
            if (!taken(when, step)) {
                continue;
            }
            if (step.step().action() instanceof Step.Ask(var id, var _, var usual)) {
                var answer = Optional.ofNullable(draft.around().answers().get(id));
                if (answer.isEmpty()) {
                    var words = step.texts().get("text").words(known, moment);
                    question = Optional.of(new Question(id, words, usual));
                    trace.add(Stage.AFTER, Mark.ASK, when, () -> "Asks: " + words);
                    break;
                }
                if (answer.get().equals("cancel")) {
                    break;
                }
                skip = answer.get().equals("no");
                continue;
            }
            take(when, step);
        }
        return new Outcome(
                List.copyOf(writes), List.copyOf(then), Map.copyOf(set), saves, question, new Findings(findings));
    }

    private boolean taken(String when, PlannedStep step) {
        if (step.onlyIf().isEmpty()) {
            return true;
        }
        var answer = answer(when, step.onlyIf().get());
        boolean taken = answer.yes();
        if (!taken) {
            trace.add(
                    Stage.AFTER,
                    Mark.DONE,
                    when,
                    () -> "Not taken: " + StepWords.of(step.step()) + ", since not "
                            + step.onlyIf().get().text() + ".");
        }
        return taken;
    }

    private Answer answer(String when, Formula formula) {
        var answer = formula.answer(known, moment);
        if (answer instanceof Answer.Fault(var sentence)) {
            trace.add(Stage.AFTER, Mark.FAULT, when, () -> sentence);
            findings.add(fault("A step can't be worked out: %s Its builder must mend it.".formatted(sentence)));
        }
        return answer;
    }

    private Finding fault(String sentence) {
        return new Finding("", Code.FORMULA, Severity.STOP, sentence, "");
    }

    private void take(String when, PlannedStep planned) {
        switch (planned.step().action()) {
            case Step.Press(var action) -> {
                saves |= action == Command.SAVE;
                then.add(new Then.Press(action));
            }
            case Step.Open(var form, var _) -> {
                var values = new LinkedHashMap<String, String>();
                planned.values().forEach(each -> values.put(each.name(), typed(answer(when, each.formula()))));
                then.add(new Then.Open(form, values));
                trace.add(Stage.AFTER, Mark.DONE, when, () -> "Would open the form " + form + ".");
            }
            case Step.SetField _ ->
                values(when, planned.values()).forEach((name, value) -> {
                    set.put(name, value);
                    plan.table().column(name).ifPresent(column -> know(column, value));
                });
            case Step.AddRow(var table, var _) -> {
                var values = values(when, planned.values());
                writes.add(new Write.Add(table, values));
                trace.add(Stage.AFTER, Mark.DONE, when, () -> "Adds a row to %s: %s.".formatted(table, spoken(values)));
            }
            case Step.ChangeRow(var table, var _, var _) -> change(when, planned, table);
            case Step.Send _ -> {
                var message = new Write.Message(
                        text(planned, "to").strip(), text(planned, "subject").strip(), text(planned, "text"));
                writes.add(message);
                trace.add(
                        Stage.AFTER,
                        Mark.DONE,
                        when,
                        () -> "Sends a message to %s: %s.".formatted(message.to(), message.subject()));
                if (!message.to().matches("[^@\\s,;]+@[^@\\s,;]+")) {
                    findings.add(fault(
                            "“%s” is no e-mail address that a message could be sent to.".formatted(message.to())));
                }
            }
            case Step.Say _ -> {
                var words = text(planned, "text");
                then.add(new Then.Say(words));
                trace.add(Stage.AFTER, Mark.DONE, when, () -> "Says: " + words);
            }
            case Step.Ask _ -> throw new IllegalStateException();
        }
    }

    private void change(String when, PlannedStep planned, String table) {
        var where = values(when, planned.where());
        var values = values(when, planned.values());
        if (where.values().stream().anyMatch(Value::isEmpty)) {
            findings.add(fault("The row of %s to change can't be found: %s is empty."
                    .formatted(table, String.join(", ", where.keySet()))));
            return;
        }
        var rows = stored.matching(table, where, 2);
        if (rows.size() != 1) {
            findings.add(fault("%s row of %s has %s. Nothing was changed."
                    .formatted(rows.isEmpty() ? "No" : "More than one", table, spoken(where))));
            return;
        }
        var row = rows.getFirst();
        writes.add(new Write.Change(table, row.id(), row.version(), row.row(), values));
        trace.add(
                Stage.AFTER,
                Mark.DONE,
                when,
                () -> "Changes row %d of %s: %s.".formatted(row.row(), table, spoken(values)));
    }

    private static String spoken(Map<String, Value> values) {
        var words = new ArrayList<String>();
        values.forEach((name, value) -> {
            if (!value.isEmpty()) {
                words.add(name + " " + value.spoken());
            }
        });
        return String.join(", ", words);
    }

    private String text(PlannedStep planned, String place) {
        return planned.texts().get(place).words(known, moment);
    }

    private static String typed(Answer answer) {
        return answer instanceof Answer.Of(var value) ? value.toString() : "";
    }

    private Map<String, Value> values(String when, List<PlannedStep.Set> sets) {
        var reader = new ValueReader(Conventions.DEFAULT, moment.now().toLocalDateTime());
        var values = new LinkedHashMap<String, Value>();
        for (var each : sets) {
            var column = each.column().orElseThrow();
            switch (answer(when, each.formula()).in(column, reader)) {
                case Reading.Read(var value, var _) -> values.put(column.name(), value);
                case Reading.Refused(var _, var message) ->
                    findings.add(fault("%s can't take what a step gives it: %s".formatted(column.title(), message)));
            }
        }
        return values;
    }
}
