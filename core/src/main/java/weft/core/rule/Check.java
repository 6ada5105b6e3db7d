package weft.core.rule;

import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * A rule on an entry that stops it or asks.
 *
 * @param id names it within its form
 * @param rule what must be so
 * @param asks whether an entry that breaks it may be saved after a yes
 * @param stays whether the cursor stays in the field until it is put right
 * @param message the builder's own sentence, or empty for one made from the rule
 */
public record Check(String id, Rule rule, boolean asks, boolean stays, String message) implements Declaration {

    /** What is not complete, nearly the same or not usual is asked about, whatever else is said. */
    public Check {
        asks |= rule instanceof Complete || rule instanceof Alike || rule instanceof Usual;
    }

    /** What must be so. Columns are named as the form's table calls them. */
    public sealed interface Rule {

        /** The columns it speaks of; its finding stands at the first. */
        default List<String> columns() {
            return switch (this) {
                case AnyOf(var columns) -> columns;
                case Range(var column, var _, var _) -> List.of(column);
                case Length(var column, var _, var _) -> List.of(column);
                case Matches(var column, var _) -> List.of(column);
                case OneOf(var column, var _) -> List.of(column);
                case Needs(var column, var other) -> List.of(other, column);
                case Holds(var _, var column) -> List.of(column);
                case Complete(var columns) -> columns;
                case Alike(var columns, boolean _, boolean _) -> columns;
                case Usual(var column, var by, boolean _) ->
                    Stream.concat(Stream.of(column), by.stream().map(For::column))
                            .toList();
            };
        }
    }

    Check following(UnaryOperator<String> now) {
        Rule renamed = switch (rule) {
            case AnyOf(var columns) -> new AnyOf(columns.stream().map(now).toList());
            case Range(var column, var from, var to) -> new Range(now.apply(column), from, to);
            case Length(var column, int from, int to) -> new Length(now.apply(column), from, to);
            case Matches(var column, var pattern) -> new Matches(now.apply(column), pattern);
            case OneOf(var column, var list) -> new OneOf(now.apply(column), list);
            case Needs(var column, var other) -> new Needs(now.apply(column), now.apply(other));
            case Holds(var formula, var column) -> new Holds(formula, now.apply(column));
            case Complete(var columns) -> new Complete(columns.stream().map(now).toList());
            case Alike(var columns, boolean sound, boolean all) ->
                new Alike(columns.stream().map(now).toList(), sound, all);
            case Usual(var column, var by, boolean all) ->
                new Usual(
                        now.apply(column),
                        by.stream()
                                .map(part -> new For(now.apply(part.column()), part.of()))
                                .toList(),
                        all);
        };
        return with(renamed);
    }

    /** The same of another rule. */
    public Check with(Rule other) {
        return new Check(id, other, asks, stays, message);
    }

    /** At least one of these is filled. */
    public record AnyOf(List<String> columns) implements Rule {
        public AnyOf {
            columns = List.copyOf(columns);
        }
    }

    /** It lies between these, both included, each as it would be typed; an empty one sets no bound. */
    public record Range(String column, String from, String to) implements Rule {}

    /** It has so many characters. */
    public record Length(String column, int from, int to) implements Rule {}

    /** The whole of it matches a pattern, in the syntax of RE2. */
    public record Matches(String column, String pattern) implements Rule {}

    /** It is one of a list. */
    public record OneOf(String column, List<String> list) implements Rule {
        public OneOf {
            list = List.copyOf(list);
        }
    }

    /** When it is filled, the other is too: a time needs a date. */
    public record Needs(String column, String other) implements Rule {}

    /** A formula says yes. Its finding stands at the column. */
    public record Holds(String formula, String column) implements Rule {}

    /**
     * No other record is nearly the same in all of these. It always asks, since two may well be.
     *
     * @param sound whether words are nearly the same that sound alike
     * @param all whether records are counted too that a door does not show
     */
    public record Alike(List<String> columns, boolean sound, boolean all) implements Rule {
        public Alike {
            columns = List.copyOf(columns);
        }
    }

    /**
     * It is as what is stored lets one expect. It always asks, since what is unusual may well be so.
     *
     * @param by which records it is held against, the widest group first
     * @param all whether it speaks at doors too where not all records are to be seen
     */
    public record Usual(String column, List<For> by, boolean all) implements Rule {
        public Usual {
            by = List.copyOf(by);
        }
    }

    /** The records that have the same there. */
    public record For(String column, Of of) {

        /** What of it is the same. */
        public enum Of {
            VALUE,
            MONTH,
            WEEKDAY,
            HOUR;
        }
    }

    /** These are filled, or, when none is named, all that can be typed in. It always asks. */
    public record Complete(List<String> columns) implements Rule {
        public Complete {
            columns = List.copyOf(columns);
        }
    }
}
