package weft.core.rule;

import java.util.List;
import java.util.Set;

/**
 * One action of a button or of what comes after a save.
 *
 * @param onlyIf a formula that must say yes for it to be taken, or empty
 * @param action what is done
 */
public record Step(String onlyIf, Action action) {

    /** What a step does. */
    public sealed interface Action {

        /** Whether it writes to other tables or sends, and so goes with an entry that is saved. */
        default boolean writes() {
            return switch (this) {
                case AddRow _, ChangeRow _, Send _ -> true;
                case Press _, Open _, SetField _, Say _, Ask _ -> false;
            };
        }
    }

    /** What a button could do by itself: save, clear, go to a record, find, close. */
    public record Press(Command action) implements Action {}

    /** Opens a form, with values in its new entry. */
    public record Open(String form, List<Setting> values) implements Action {
        public Open {
            values = List.copyOf(values);
        }
    }

    /** Sets a field of this entry. */
    public record SetField(Setting value) implements Action {}

    /** A hand-on: adds a row to another table. */
    public record AddRow(String table, List<Setting> values) implements Action {
        public AddRow {
            values = List.copyOf(values);
        }
    }

    /** Changes the one row of a table whose columns are so. */
    public record ChangeRow(String table, List<Setting> where, List<Setting> values) implements Action {
        public ChangeRow {
            where = List.copyOf(where);
            values = List.copyOf(values);
        }
    }

    /** Sends a message. In all three, {@code {formula}} stands for what the formula comes to. */
    public record Send(String to, String subject, String text) implements Action {}

    /** Says something; {@code {formula}} stands for what the formula comes to. */
    public record Say(String text) implements Action {}

    /**
     * Asks. A yes goes on, a no leaves out the next step, and cancel gives up: nothing is saved.
     *
     * @param id names the question within its form
     * @param usual the answer that is drawn first
     */
    public record Ask(String id, String text, Reply usual) implements Action {}

    /** An answer to a question. */
    public enum Reply {
        YES,
        NO,
        CANCEL
    }

    /**
     * A column and what it is set to.
     *
     * @param formula in FEEL
     */
    public record Setting(String column, String formula) {}

    /** The steps of one place of a form: {@link #SAVED}, {@link #CHANGED}, or a button by its id. */
    public record Steps(String when, List<Step> steps) {

        /** The place of the steps after a new entry is saved. */
        public static final String SAVED = "saved";
        /** The place of the steps after a change of a stored record is saved. */
        public static final String CHANGED = "changed";
        /** The places of steps that follow a save, and that nobody presses. */
        public static final Set<String> AFTER = Set.of(SAVED, CHANGED);

        public Steps {
            steps = List.copyOf(steps);
        }
    }
}
