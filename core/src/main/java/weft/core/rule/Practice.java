package weft.core.rule;

import java.util.Map;

/**
 * A draft kept with a form, and what should come of it.
 *
 * @param id names it within its form
 * @param name what it is called
 * @param typed what is typed, by column
 * @param answers what is answered to what asks, by code or by the id of a question
 * @param outcome what should come of it
 * @param code the code of the stop or ask that should come; empty when it should be saved
 * @param values what should be stored, by column, in the canonical spelling of values; only these are compared
 */
public record Practice(
        String id,
        String name,
        Map<String, String> typed,
        Map<String, String> answers,
        Outcome outcome,
        String code,
        Map<String, String> values) {

    public Practice {
        typed = Map.copyOf(typed);
        answers = Map.copyOf(answers);
        values = Map.copyOf(values);
    }

    /** The same with that typed. */
    public Practice typing(Map<String, String> other) {
        return new Practice(id, name, other, answers, outcome, code, values);
    }

    /** What comes of an entry. */
    public enum Outcome {
        SAVED,
        STOPPED,
        ASKED
    }
}
