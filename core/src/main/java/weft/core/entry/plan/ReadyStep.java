package weft.core.entry.plan;

import java.util.List;
import java.util.Optional;
import weft.core.formula.Formula;
import weft.core.formula.Template;
import weft.core.rule.Command;
import weft.core.rule.Step;
import weft.core.rule.Step.Reply;
import weft.core.table.Column;
import weft.core.table.Table;

/** A step made ready: its tables and columns found, its formulas and texts read. The kinds are those of {@link Step.Action}. */
public sealed interface ReadyStep {

    /** When it is taken. */
    When when();

    /**
     * When a step is taken.
     *
     * @param step the step as it was declared
     * @param onlyIf what must say yes, or empty where it is always taken
     */
    record When(Step step, Optional<Formula> onlyIf) {}

    /** A column, and the formula that it is set to. */
    record Set(Column column, Formula formula) {}

    /** A field of a form to be opened, which is not looked at here, and the formula that it begins with. */
    record Begin(String column, Formula formula) {}

    /** Does what a button could do by itself. */
    record Press(When when, Command command) implements ReadyStep {}

    /** Opens a form, with values in its new entry. */
    record Open(When when, String form, List<Begin> begins) implements ReadyStep {}

    /** Sets a field of this entry. */
    record SetField(When when, Set set) implements ReadyStep {}

    /** Adds a row to a table. */
    record AddRow(When when, Table table, List<Set> values) implements ReadyStep {}

    /** Changes the one row of a table whose columns are so. */
    record ChangeRow(When when, Table table, List<Set> where, List<Set> values) implements ReadyStep {}

    /** Sends a message. */
    record Send(When when, Template to, Template subject, Template text) implements ReadyStep {}

    /** Says something. */
    record Say(When when, Template text) implements ReadyStep {}

    /** Asks. */
    record Ask(When when, String id, Template text, Reply usual) implements ReadyStep {}
}
