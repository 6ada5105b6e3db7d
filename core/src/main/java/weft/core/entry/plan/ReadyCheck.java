package weft.core.entry.plan;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.formula.Formula;
import weft.core.formula.Pattern;
import weft.core.formula.Template;
import weft.core.table.Column;
import weft.core.table.Limits;
import weft.core.usual.Grouping;
import weft.core.value.Value;

/** A check made ready: its columns found, and its formula, pattern or bounds read. The kinds are those of {@link weft.core.rule.Check.Rule}. */
public sealed interface ReadyCheck {

    /** How it is told. */
    Notice told();

    /** The columns it speaks of; its finding stands at the first. */
    List<Column> columns();

    /**
     * How a check is told when it is broken.
     *
     * @param id names it within its form
     * @param asks whether an entry that breaks it may be saved after a yes
     * @param message the builder's own sentence, or empty for one made from the rule
     */
    record Notice(String id, boolean asks, Optional<Template> message) {}

    /** At least one of these is filled. */
    record AnyOf(Notice told, List<Column> columns) implements ReadyCheck {}

    /** When the other is filled, this one is too. */
    record Needs(Notice told, Column needed, Column filled) implements ReadyCheck {
        @Override
        public List<Column> columns() {
            return List.of(needed, filled);
        }
    }

    /** These are filled, or, when none is named, all that can be typed in. */
    record Complete(Notice told, List<Column> columns) implements ReadyCheck {}

    /** No other record is nearly the same in all of these; {@code sound} tells whether words may only sound so. */
    record Alike(Notice told, List<Column> columns, boolean sound, boolean all) implements ReadyCheck {}

    /** It is as what is stored lets one expect. */
    record Usual(Notice told, Grouping of) implements ReadyCheck {
        @Override
        public List<Column> columns() {
            return Stream.concat(Stream.of(of.column()), of.by().stream().map(Grouping.Part::column))
                    .toList();
        }
    }

    /** A formula says yes. */
    record Holds(Notice told, Column column, Formula formula) implements ReadyCheck {
        @Override
        public List<Column> columns() {
            return List.of(column);
        }
    }

    /** A check of the value of one column. An empty value breaks none. */
    sealed interface OfValue extends ReadyCheck {

        /** The column. */
        Column column();

        @Override
        default List<Column> columns() {
            return List.of(column());
        }
    }

    /** It lies within limits. */
    record Range(Notice told, Column column, Limits limits) implements OfValue {}

    /** It has so many characters; 0 for no most. */
    record Length(Notice told, Column column, int from, int to) implements OfValue {}

    /** The whole of it matches a pattern. */
    record Matches(Notice told, Column column, Pattern pattern) implements OfValue {}

    /** It is one of these values, however they are spelled. */
    record OneOf(Notice told, Column column, List<Value> list) implements OfValue {}
}
