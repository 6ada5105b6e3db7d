package weft.core.entry.step;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.draft.Known;
import weft.core.entry.draft.Trace;
import weft.core.entry.draft.Trace.Mark;
import weft.core.entry.draft.Trace.Stage;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.ReadyStep;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.record.Links;
import weft.core.record.StoredRows;
import weft.core.rule.Command;
import weft.core.rule.Step.Reply;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.core.value.Wire;

/** Goes through a list of steps and says what they come to. It writes nothing itself. */
public final class StepRun {

    private final EntryPlan plan;
    private final Draft draft;
    private final StoredRows stored;
    private final Trace trace;
    private final Known known;
    private final List<Write> writes = new ArrayList<>();
    private final List<Then> then = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final Map<String, Value> set = new LinkedHashMap<>();
    private Optional<Question> question = Optional.empty();
    private boolean saves;

    /**
     * For one entry.
     *
     * @param known the entry as it stands
     */
    public StepRun(EntryPlan plan, Draft draft, StoredRows stored, Known known, Trace trace) {
        this.plan = plan;
        this.draft = draft;
        this.stored = stored;
        this.known = known;
        this.trace = trace;
    }

    /**
     * What steps come to.
     *
     * @param writes what is written beside the entry
     * @param then what the Desk does afterwards, in order
     * @param set the fields of the entry that are set
     * @param saves whether the entry itself is to be saved
     * @param question what must be answered before anything is written
     * @param cancelled whether a question was answered with cancel, so that nothing is done at all
     * @param findings what is in the way
     */
    public record Outcome(
            List<Write> writes,
            List<Then> then,
            Map<String, Value> set,
            boolean saves,
            Optional<Question> question,
            boolean cancelled,
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

    /** Goes through the steps of that place, as far as they are answered. */
    public Outcome run(String place) {
        boolean skip = false;
        for (var step : plan.steps().getOrDefault(place, List.of())) {
            if (skip) {
                skip = false;
                tell(place, Mark.DONE, () -> "Left out: " + words(step) + ".");
                continue;
            }
            if (!taken(place, step)) {
                continue;
            }
            if (step instanceof ReadyStep.Ask ask) {
                // What is no answer leaves the question as it is.
                var answer = Optional.ofNullable(draft.around().answers().get(ask.id()))
                        .flatMap(word -> Wire.find(Reply.class, word));
                if (answer.isEmpty()) {
                    var words = known.words(ask.text());
                    question = Optional.of(new Question(ask.id(), words, ask.usual()));
                    tell(place, Mark.ASK, () -> "Asks: " + words);
                    break;
                }
                if (answer.get() == Reply.CANCEL) {
                    return cancelled(place);
                }
                skip = answer.get() == Reply.NO;
                continue;
            }
            take(place, step);
        }
        return new Outcome(
                List.copyOf(writes),
                List.copyOf(then),
                Map.copyOf(set),
                saves,
                question,
                false,
                new Findings(findings));
    }

    private Outcome cancelled(String place) {
        tell(place, Mark.DONE, () -> "Given up: nothing is saved.");
        return new Outcome(List.of(), List.of(), Map.of(), false, Optional.empty(), true, Findings.NONE);
    }

    private void tell(String place, Mark mark, Supplier<String> words) {
        trace.add(Stage.AFTER, mark, place, words);
    }

    private String words(ReadyStep step) {
        return plan.sentences().of(step.when().step().action());
    }

    private boolean taken(String place, ReadyStep step) {
        var onlyIf = step.when().onlyIf();
        boolean taken = onlyIf.map(formula -> answer(place, formula).yes()).orElse(true);
        if (!taken) {
            tell(
                    place,
                    Mark.DONE,
                    () -> "Not taken: " + words(step) + ", since not "
                            + onlyIf.orElseThrow().text() + ".");
        }
        return taken;
    }

    private Answer answer(String place, Formula formula) {
        var answer = known.answer(formula);
        if (answer instanceof Answer.Fault(var sentence)) {
            tell(place, Mark.FAULT, () -> sentence);
            fault(new Cause.FormulaFails(true, sentence));
        }
        return answer;
    }

    private void fault(Cause cause) {
        findings.add(Finding.stop("", cause));
    }

    private void take(String place, ReadyStep step) {
        switch (step) {
            case ReadyStep.Press(var _, var command) -> {
                saves |= command == Command.SAVE;
                then.add(new Then.Press(command));
            }
            case ReadyStep.Open(var _, var form, var begins) -> {
                var values = new LinkedHashMap<String, String>();
                begins.forEach(each -> values.put(each.column(), typed(answer(place, each.formula()))));
                then.add(new Then.Open(form, values));
                tell(place, Mark.DONE, () -> "Would open the form " + form + ".");
            }
            case ReadyStep.SetField(var _, var setting) -> {
                var column = setting.column();
                values(place, List.of(setting)).forEach((name, value) -> {
                    set.put(name, value);
                    known.learn(column, value);
                });
            }
            case ReadyStep.AddRow(var _, var table, var sets) -> {
                var values = values(place, sets);
                writes.add(new Write.Add(table.name(), values));
                tell(place, Mark.DONE, () -> "Adds a row to %s: %s.".formatted(table.name(), spoken(values)));
            }
            case ReadyStep.ChangeRow change -> change(place, change);
            case ReadyStep.Send send -> send(place, send);
            case ReadyStep.Say(var _, var text) -> {
                var words = known.words(text);
                then.add(new Then.Say(words));
                tell(place, Mark.DONE, () -> "Says: " + words);
            }
            case ReadyStep.Ask _ -> throw new IllegalStateException("asked before it is taken");
        }
    }

    private void send(String place, ReadyStep.Send send) {
        var message = new Write.Message(
                known.words(send.to()).strip(), known.words(send.subject()).strip(), known.words(send.text()));
        writes.add(message);
        tell(place, Mark.DONE, () -> "Sends a message to %s: %s.".formatted(message.to(), message.subject()));
        if (!message.to().matches("[^@\\s,;]+@[^@\\s,;]+")) {
            fault(new Cause.NoAddress(message.to()));
        }
    }

    private void change(String place, ReadyStep.ChangeRow step) {
        var table = step.table().name();
        var where = values(place, step.where());
        var values = values(place, step.values());
        if (where.values().stream().anyMatch(Value::isEmpty)) {
            fault(new Cause.NothingToLookFor(table, List.copyOf(where.keySet())));
            return;
        }
        var rows = stored.matching(table, where, 2);
        if (rows.size() != 1) {
            fault(new Cause.NotOneRow(table, !rows.isEmpty(), where));
            return;
        }
        var row = rows.getFirst();
        writes.add(new Write.Change(table, row.id(), row.version(), row.row(), values));
        tell(place, Mark.DONE, () -> "Changes row %d of %s: %s.".formatted(row.row(), table, spoken(values)));
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

    private static String typed(Answer answer) {
        return switch (answer) {
            case Answer.Of(Value.Link link) -> link.shown();
            case Answer.Of(var value) -> value.toString();
            case Answer.Nothing _, Answer.Fault _ -> "";
        };
    }

    private Map<String, Value> values(String place, List<ReadyStep.Set> sets) {
        var reader = new ValueReader(Conventions.DEFAULT, known.moment().now().toLocalDateTime());
        var links = new Links(stored, Conventions.DEFAULT);
        var values = new LinkedHashMap<String, Value>();
        for (var each : sets) {
            var column = each.column();
            switch (links.meant(column, answer(place, each.formula()).in(column, reader), Value.EMPTY)) {
                case Reading.Read(var value, var _) -> values.put(column.name(), value);
                case Reading.Refused(var refusal) -> fault(new Cause.StepGives(column.title(), refusal));
            }
        }
        return values;
    }
}
