package weft.store.entry;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import weft.core.door.May;
import weft.core.door.Pass;
import weft.core.entry.draft.Draft;
import weft.core.rule.Step.Steps;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.store.form.ReadyForm;
import weft.store.record.Following;
import weft.store.record.SaveKey;

/**
 * An entry that somebody sends.
 *
 * @param form the form that it comes through, in the version it was begun on
 * @param draft what was typed, on the record that it changes, if it changes one
 * @param version the version of that record that was seen
 * @param key under which it is saved once
 * @param by the name of who sends it
 * @param may what they may do with it
 * @param lines by the id of the form's lines: those that are new, changed or taken out
 * @param kept what the house itself keeps of it
 */
public record Sent(
        ReadyForm form,
        Draft draft,
        int version,
        Optional<SaveKey> key,
        String by,
        Set<May> may,
        Map<String, List<SentLine>> lines,
        Optional<Following.Keeping> kept) {

    public Sent {
        may = Set.copyOf(may);
        lines = Map.copyOf(lines);
    }

    /** An entry without lines, by a pass. */
    public Sent(ReadyForm form, Draft draft, int version, Optional<SaveKey> key, Pass pass) {
        this(form, draft, version, key, pass.by(), pass.may(), Map.of(), Optional.empty());
    }

    /**
     * A line that somebody sends with an entry.
     *
     * @param number its number from 1
     * @param typed what is typed, by column
     * @param record the stored record that it changes; empty for a new line
     * @param version the version of that record that was seen
     * @param gone whether it is taken out
     * @param chosen by the id of a fill, the identity of the record chosen where several match
     * @param seen by column: what a fill had brought, or would have, when it was typed over
     */
    public record SentLine(
            int number,
            Map<String, Typed> typed,
            OptionalLong record,
            int version,
            boolean gone,
            Map<String, Long> chosen,
            Map<String, String> seen) {}

    /** An entry to be looked at, which cannot be saved. */
    public Sent(ReadyForm form, Draft draft, String by) {
        this(form, draft, 0, Optional.empty(), by, Set.of(), Map.of(), Optional.empty());
    }

    /** The same with these columns set. */
    Sent with(Map<String, Value> set) {
        return new Sent(form, draft.with(set), version, key, by, may, lines, kept);
    }

    /** The same under that key. */
    Sent under(Optional<SaveKey> other) {
        return new Sent(form, draft, version, other, by, may, lines, kept);
    }

    /** The same with those lines. */
    public Sent lined(Map<String, List<SentLine>> others) {
        return new Sent(form, draft, version, key, by, may, others, kept);
    }

    /** The same, of which the house keeps that. */
    public Sent keeping(Optional<Following.Keeping> that) {
        return new Sent(form, draft, version, key, by, may, lines, that);
    }

    /**
     * Goes on only when whoever sends it may save it: the right follows from what is done, and not from how it was asked for.
     *
     * @throws NotLet when they may not
     */
    void needLet() {
        var needed = draft.fresh() ? May.ADD : May.CHANGE;
        if (!may.contains(needed)) {
            throw new NotLet(needed);
        }
    }

    /** The place of the steps that follow it. */
    String place() {
        return draft.fresh() ? Steps.SAVED : Steps.CHANGED;
    }
}
