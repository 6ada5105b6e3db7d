package weft.core.rule;

/** One rule of a form, or of its table, whatever it does: what one sentence says. */
public sealed interface Declaration permits Check, Fill, Derived, Choices, Numbering, Placed, Between {

    /** The same under that id; the same where such rules have none. */
    default Declaration named(String id) {
        return switch (this) {
            case Check check -> new Check(id, check.rule(), check.asks(), check.stays(), check.message());
            case Fill fill ->
                new Fill(id, fill.table(), fill.keys(), fill.brings(), fill.none(), fill.several(), fill.writesBack());
            case Placed(var when, Step(var onlyIf, Step.Ask ask)) ->
                new Placed(when, new Step(onlyIf, new Step.Ask(id, ask.text(), ask.usual())));
            case Between(var constraint) -> new Between(constraint.named(id));
            case Derived _, Choices _, Numbering _, Placed _ -> this;
        };
    }

    /** Its id within its form or table; empty where such rules have none. */
    default String id() {
        return switch (this) {
            case Check check -> check.id();
            case Fill fill -> fill.id();
            case Placed(var _, Step(var _, Step.Ask ask)) -> ask.id();
            case Between(var constraint) -> constraint.id();
            case Derived _, Choices _, Numbering _, Placed _ -> "";
        };
    }

    /** What a fault of it is about: its id, or what it speaks of first. */
    default String about() {
        return switch (this) {
            case Check _, Fill _, Between _ -> id();
            case Derived(var target, var _, var _) -> target;
            case Choices choices -> choices.column();
            case Numbering(var column, var _) -> column;
            case Placed(var when, var _) -> when;
        };
    }

    /** When it acts. */
    default When acts() {
        return switch (this) {
            case Fill _, Derived _, Choices _ -> When.WHILE_TYPING;
            case Check _, Between _ -> When.BEFORE_SAVED;
            case Numbering _ -> When.ONCE_SAVED;
            case Placed placed -> placed.saving() ? When.ONCE_SAVED : When.WHEN_PRESSED;
        };
    }

    /** When a rule acts. */
    enum When {
        WHILE_TYPING,
        BEFORE_SAVED,
        ONCE_SAVED,
        /** When a button is pressed. */
        WHEN_PRESSED
    }
}
