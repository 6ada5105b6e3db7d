package weft.store.entry;

import java.time.Clock;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.alike.Likeness;
import weft.core.entry.Assessment;
import weft.core.entry.EntryEngine;
import weft.core.entry.RulesSaid;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Trace;
import weft.core.entry.plan.ReadyCheck;
import weft.core.entry.plan.ReadyStep;
import weft.core.entry.step.StepRun;
import weft.core.entry.step.StepRun.Then;
import weft.core.entry.step.Write;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.rule.Step.Steps;
import weft.core.value.Value;
import weft.store.form.Definitions;
import weft.store.form.PlannedForm;
import weft.store.form.ReadyForm;
import weft.store.record.EntryWriter;
import weft.store.record.EntryWriter.DoneBeside;
import weft.store.record.EntryWriter.Written;
import weft.store.record.Following;
import weft.store.record.Following.Followed;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.SaidDifferent;
import weft.store.record.Stale;
import weft.store.table.SeenTable;

/** Saves entries: each is assessed, asked about, written with all that goes with it, and followed by its steps. */
public final class Saving {

    private final EntryEngine engine;
    private final Records records;
    private final EntryWriter writer;
    private final Definitions definitions;
    private final Clock clock;

    /** With these parts of the house. */
    public Saving(EntryEngine engine, Records records, EntryWriter writer, Definitions definitions, Clock clock) {
        this.engine = engine;
        this.records = records;
        this.writer = writer;
        this.definitions = definitions;
        this.clock = clock;
    }

    /**
     * A saved entry, and what the Desk does next.
     *
     * @param elsewhere what else was written, but for lines of the form
     * @param again whether it was saved before, by the same request, and nothing now
     */
    public record Saved(StoredRow record, List<Then> then, List<DoneBeside> elsewhere, boolean again) {

        /** Of an entry that is saved already. */
        public static Saved before(StoredRow record) {
            return new Saved(record, List.of(), List.of(), true);
        }
    }

    /**
     * What a press came to.
     *
     * @param set the fields that were set, with their values
     * @param saved the entry as it was saved; empty when the steps do not save
     * @param then what the Desk does next
     */
    public record Pressed(Map<String, Value> set, Optional<Saved> saved, List<Then> then) {}

    /** The same, which asks those of stored rows. */
    Saving asking(Records others) {
        return new Saving(engine, others, writer, definitions, clock);
    }

    /** What is to be said of a draft now. Nothing is written. */
    public Assessment assess(ReadyForm form, Draft draft) {
        return assess(form, draft, Trace.none());
    }

    /** What each rule of the form says of a draft now. Nothing is written. */
    public List<RulesSaid.Said> said(ReadyForm form, Draft draft) {
        var trace = Trace.kept();
        assess(form, draft, trace);
        return RulesSaid.of(form.plan(), trace.lines());
    }

    Assessment assess(ReadyForm form, Draft draft, Trace trace) {
        return engine.assess(form.plan(), draft, rows(form), trace);
    }

    /**
     * What a formula comes to for a draft.
     *
     * @throws Formula.Misread when it cannot be read, or names what there is not
     */
    public Answer answer(ReadyForm form, Draft draft, String formula) {
        return answer(form, draft, formula, rows(form));
    }

    /** The same with stored rows that are asked of for many drafts. */
    public Answer answer(PlannedForm form, Draft draft, String formula, StoredRows rows) {
        return engine.answer(form.plan(), draft, rows, formula);
    }

    /** What an entry through that form may be told of stored rows. */
    public StoredRows rows(ReadyForm form) {
        return records.rowsOf(form.table(), form.seen(), definitions);
    }

    /**
     * Saves a new entry or a change.
     *
     * @throws Stopped when something is in the way: a stop, or an ask that is not answered
     * @throws NotLet when whoever sends it may not save it
     * @throws Stale when the record that it changes is not what was seen
     * @throws NotSaved when its key was used for another entry
     */
    public Saved save(Sent sent) {
        return save(sent, sent.place());
    }

    /**
     * Puts an earlier state of a record back: a change like any other, with what columns held that the form has no field for.
     *
     * @throws Stopped as a save does
     */
    public Saved putBack(Sent sent, Map<String, Value> beside) {
        var assessment = assess(sent.form(), sent.draft());
        if (!assessment.findings().none()) {
            throw new Stopped(assessment.findings());
        }
        return written(sent, assessment.also(beside), sent.place(), Following.NOTHING);
    }

    /** What was saved under that key, with what it came to; empty when nothing was. */
    public Optional<StoredRow> savedUnder(ReadyForm form, String key) {
        return writer.keys().savedUnder(form.table(), key);
    }

    /**
     * Presses a button that has steps.
     *
     * @param saves how an entry is saved with the steps of a place
     * @throws Stopped as a save does
     */
    Pressed press(Sent sent, String button, BiFunction<Sent, String, Saved> saves) {
        var form = sent.form();
        // A press that saved before under its key may well ask or stop by now.
        var before = sent.key().flatMap(key -> writer.keys().savedBefore(form.table(), key));
        if (before.isPresent()) {
            return new Pressed(Map.of(), before.map(Saved::before), List.of());
        }
        var values = values(sent.draft(), assess(form, sent.draft()));
        var outcome = engine.steps(form.plan(), button, sent.draft(), values, 0, rows(form), Trace.none());
        if (outcome.question().isPresent()) {
            throw new Stopped(outcome.question().get());
        }
        if (outcome.cancelled()) {
            return new Pressed(Map.of(), Optional.empty(), List.of());
        }
        if (!outcome.saves()) {
            if (outcome.findings().stop()) {
                throw new Stopped(outcome.findings());
            }
            return new Pressed(outcome.set(), Optional.empty(), outcome.then());
        }
        var saved = saves.apply(sent.with(outcome.set()), button);
        return new Pressed(outcome.set(), Optional.of(saved), saved.then());
    }

    Saved save(Sent sent, String place) {
        return once(sent, Saved::before, () -> {
            var assessment = assess(sent.form(), sent.draft());
            if (!assessment.findings().none()) {
                throw new Stopped(assessment.findings());
            }
            return written(sent, assessment, place, Following.NOTHING);
        });
    }

    /** An entry that was saved before under its key may well collide with itself by now, or ask again. */
    <T> T once(Sent sent, Function<StoredRow, T> before, Supplier<T> work) {
        return writer.keys().once(sent.form().table(), sent.key(), before, work);
    }

    /**
     * Saves an entry in whose way nothing was found, with its lines.
     *
     * @param lines the lines that are written with it
     */
    Saved save(Sent sent, Assessment assessment, String place, Following lines) {
        boolean same = !lines.nothing() && !sent.draft().fresh() && same(sent, assessment);
        return written(sent, same ? assessment.writingNothing() : assessment, place, lines);
    }

    private Saved written(Sent sent, Assessment assessment, String place, Following lines) {
        sent.needLet();
        var same = lines.nothing() && place.equals(Steps.CHANGED)
                ? unchanged(sent, assessment)
                : Optional.<StoredRow>empty();
        if (same.isPresent()) {
            return Saved.before(same.get());
        }
        try {
            var kept = writer.save(entry(sent, assessment), lines.before(following(sent, assessment, place)));
            return new Saved(kept.record(), kept.then(), elsewhere(sent, kept.beside()), kept.again());
        } catch (NotSaved e) {
            throw refusal(e, sent);
        } catch (Stale e) {
            return Saved.before(changedAlready(sent, assessment, e).orElseThrow(() -> e));
        }
    }

    private static List<DoneBeside> elsewhere(Sent sent, List<DoneBeside> beside) {
        var lines = sent.form().plan().lines().stream()
                .map(each -> each.plan().table().name())
                .collect(Collectors.toSet());
        return beside.stream()
                .filter(done -> done.write().into().filter(lines::contains).isEmpty())
                .toList();
    }

    /** The record as it is, when a change of the version that was seen changes nothing: it makes no version, and nothing follows. */
    private Optional<StoredRow> unchanged(Sent sent, Assessment assessment) {
        if (!assessment.backs().isEmpty() || sent.kept().isPresent() || !same(sent, assessment)) {
            return Optional.empty();
        }
        return records.find(
                        SeenTable.all(sent.form().table()),
                        sent.draft().record().getAsLong())
                .filter(now -> now.version() == sent.version());
    }

    private static boolean same(Sent sent, Assessment assessment) {
        return assessment.values().entrySet().stream()
                .allMatch(
                        each -> each.getValue().equals(sent.draft().stored().getOrDefault(each.getKey(), Value.EMPTY)));
    }

    /**
     * A new entry as one of several that are written together.
     *
     * @throws Stopped when its steps ask, or are in the way
     * @throws NotLet when whoever sends it may not save it
     */
    EntryWriter.WholeEntry part(Sent sent, Assessment assessment) {
        sent.needLet();
        return new EntryWriter.WholeEntry(entry(sent, assessment), following(sent, assessment, sent.place()));
    }

    /** What goes with an entry; its steps have been gone through once, for what they ask. */
    private Following following(Sent sent, Assessment assessment, String place) {
        var following = sent.form().plan().plain(place)
                        && assessment.backs().isEmpty()
                        && sent.kept().isEmpty()
                ? Following.NOTHING
                : steps(sent, assessment, place, Trace.none());
        return different(sent).map(following::keepingToo).orElse(following);
    }

    /** Whoever saves what is nearly the same as other records all the same says that it is another one: that is kept of each pair. */
    private Optional<Following.Keeping> different(Sent sent) {
        var answered = sent.form().plan().checks().stream()
                .filter(ReadyCheck.Alike.class::isInstance)
                .map(ReadyCheck.Alike.class::cast)
                .filter(check ->
                        sent.draft().answered(Finding.Code.ALIKE, check.told().id()))
                .toList();
        if (answered.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of((within, written) -> {
            var rows =
                    new Records(within).rowsOf(sent.form().table(), sent.form().seen(), definitions);
            var pairs = answered.stream()
                    .flatMap(check -> near(rows, check, written))
                    .map(record -> SaidDifferent.PairOf.of(written.id(), record.id()))
                    .collect(Collectors.toSet());
            new SaidDifferent(within, clock).say(sent.form().table(), pairs, sent.by());
        });
    }

    private static Stream<StoredRow> near(StoredRows rows, ReadyCheck.Alike check, StoredRow written) {
        return rows.near(check.columns(), written.values(), check.sound(), OptionalLong.of(written.id())).stream()
                .filter(record -> Likeness.of(check.columns(), written.values(), record, check.sound())
                        .isPresent());
    }

    /** The record when the change is in it already, as it is when the same request comes twice. */
    private static Optional<StoredRow> changedAlready(Sent sent, Assessment assessment, Stale stale) {
        return stale.now()
                .filter(now -> now.version() == sent.version() + 1)
                .filter(now -> assessment.values().entrySet().stream()
                        .allMatch(each -> now.of(each.getKey()).equals(each.getValue())));
    }

    /**
     * Does all that a save does, by the same code, and keeps nothing.
     *
     * @throws Stopped when something is in the way
     */
    Written rehearse(Sent sent, Assessment assessment, Trace trace) {
        var steps = steps(sent, assessment, sent.place(), trace);
        try {
            return writer.rehearse(entry(sent, assessment), steps);
        } catch (NotSaved e) {
            throw refusal(e, sent);
        }
    }

    /** What the steps of an entry would write if nothing that was found were in the way. */
    List<Write> letThrough(Sent sent, Assessment assessment, long row) {
        var form = sent.form();
        var values = values(sent.draft(), assessment);
        var steps = engine.steps(form.plan(), sent.place(), sent.draft(), values, row, rows(form), Trace.none());
        return Stream.concat(steps.writes().stream(), assessment.backs().stream())
                .toList();
    }

    /** The whole of an entry: what is stored, and over it what was found. */
    static Map<String, Value> values(Draft draft, Assessment assessment) {
        var values = new LinkedHashMap<>(draft.stored());
        values.putAll(assessment.values());
        return values;
    }

    private EntryWriter.Entry entry(Sent sent, Assessment assessment) {
        return new EntryWriter.Entry(
                sent.form().form().id(),
                sent.form().table(),
                assessment.values(),
                sent.draft().record(),
                sent.version(),
                sent.key(),
                sent.form().plan().numbers(),
                LocalDate.now(clock),
                sent.by());
    }

    /**
     * What goes with an entry: its steps, and what is written back to where it was filled from. The steps are gone through once
     * before anything is written, so that what they ask is asked first.
     */
    private Following steps(Sent sent, Assessment assessment, String place, Trace trace) {
        run(sent, place, values(sent.draft(), assessment), 0, rows(sent.form()), Trace.none());
        var tables = sent.form().plan().steps().getOrDefault(place, List.of()).stream()
                .filter(ReadyStep.AddRow.class::isInstance)
                .map(step -> ((ReadyStep.AddRow) step).table().name())
                .collect(Collectors.toUnmodifiableSet());
        return Following.of(tables, (written, rows) -> {
                    var outcome = run(sent, place, written.values(), written.row(), rows, trace);
                    return new Followed(
                            Stream.concat(outcome.writes().stream(), assessment.backs().stream())
                                    .toList(),
                            outcome.then());
                })
                .keeping(sent.kept());
    }

    private StepRun.Outcome run(
            Sent sent, String place, Map<String, Value> values, long row, StoredRows rows, Trace told) {
        var outcome = engine.steps(sent.form().plan(), place, sent.draft(), values, row, rows, told);
        if (outcome.question().isPresent()) {
            throw new Stopped(outcome.question().get());
        }
        if (outcome.cancelled()) {
            throw new Stopped(Finding.stop("", new Cause.Cancelled()));
        }
        // Before there is a row, what is worked out from it is empty yet, and proves nothing.
        if (row > 0 && outcome.findings().stop()) {
            throw new Stopped(outcome.findings());
        }
        return outcome;
    }

    /** The database had the last word: what it refused comes back as findings on the fields concerned. */
    private RuntimeException refusal(NotSaved e, Sent sent) {
        if (e.reason() == NotSaved.Reason.KEY_REUSED) {
            return e;
        }
        if (!e.elsewhere().isEmpty()) {
            return LastWord.stopped(e, sent.form().table().definition());
        }
        // What was lost in a race is there to be seen now.
        var again = assess(sent.form(), sent.draft()).findings();
        return again.stop()
                ? new Stopped(again)
                : LastWord.stopped(e, sent.form().table().definition());
    }
}
