package weft.store.entry;

import java.util.Map;
import java.util.Optional;
import weft.core.entry.draft.Draft;
import weft.core.rule.Step.Steps;
import weft.core.value.Value;
import weft.store.form.ReadyForm;
import weft.store.record.SaveKey;

/**
 * An entry that somebody sends.
 *
 * @param form the form that it comes through, in the version it was begun on
 * @param draft what was typed, on the record that it changes, if it changes one
 * @param version the version of that record that was seen
 * @param key under which it is saved once
 * @param by the name of who sends it
 */
public record Sent(ReadyForm form, Draft draft, int version, Optional<SaveKey> key, String by) {

    /** An entry to be looked at, not saved. */
    public Sent(ReadyForm form, Draft draft, String by) {
        this(form, draft, 0, Optional.empty(), by);
    }

    /** The same with these columns set. */
    Sent with(Map<String, Value> set) {
        return new Sent(form, draft.with(set), version, key, by);
    }

    /** The same under that key. */
    Sent under(Optional<SaveKey> other) {
        return new Sent(form, draft, version, other, by);
    }

    /** The place of the steps that follow it. */
    String place() {
        return draft.fresh() ? Steps.SAVED : Steps.CHANGED;
    }
}
