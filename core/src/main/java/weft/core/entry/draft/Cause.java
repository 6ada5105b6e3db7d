package weft.core.entry.draft;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import weft.core.entry.draft.Finding.Code;
import weft.core.rule.Check.For;
import weft.core.table.Column;
import weft.core.table.Limits.Side;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.usual.Unusual;
import weft.core.value.ColumnType;
import weft.core.value.Refusal;
import weft.core.value.Value;

/**
 * What is found of an entry, with all that is said of it; {@link CauseWords} makes the sentence. Columns and fields are given
 * as their labels, records as they are called.
 */
public sealed interface Cause {

    /** What was typed was not taken. */
    record Refused(Refusal refusal) implements Cause {}

    /** What a formula, a fill or a set value comes to is not taken by the field. */
    record NotWorkedOut(String field, Refusal refusal) implements Cause {}

    /**
     * A field that must be filled is empty.
     *
     * @param by of a link, the column whose value is typed for it
     */
    record Missing(String field, ColumnType type, Optional<String> by) implements Cause {}

    /** Something was typed into a field that the form does not have any more. */
    record FieldGone(String field) implements Cause {}

    /** Something else than what stands in a locked field was sent for it. */
    record Locked(String field, Value stays) implements Cause {}

    /** A rule asks for the number of the line before, which is given when that is saved. */
    record NumberToCome(String field) implements Cause {}

    /** A column that every record needs is not shown, or has no field. */
    record NoField(String column, boolean hidden) implements Cause {}

    /**
     * Beyond what the column takes.
     *
     * @param meant what would be within it if a forgotten decimal point were put back
     */
    record OutOfRange(
            String field, Optional<Value> least, Optional<Value> most, Value value, Side side, Optional<String> meant)
            implements Cause {

        public OutOfRange {
            if (least.isEmpty() && most.isEmpty()) {
                throw new IllegalArgumentException("beyond no bound");
            }
        }
    }

    /** More characters than the column takes, or than what no two records may share can have ({@code unique}). */
    record TooLong(String field, int most, int length, boolean unique) implements Cause {}

    /** Another record has this value of a column that no two may share; not told which where it is not known. */
    record Taken(String field, Optional<String> record, Value value) implements Cause {}

    /** It is not in the stored list that the field offers. */
    record NotInList(Value value, String table) implements Cause {}

    /** None of these fields is filled. */
    record NoneFilled(List<String> fields) implements Cause {}

    /** A field is empty though another is filled. */
    record NeededWith(String field, String filled) implements Cause {}

    /** Fields that an entry may be saved without only when asked. */
    record Empty(List<String> fields) implements Cause {}

    /** Beyond a bound of a check. */
    record Beyond(String field, Value value, Side side, Value bound) implements Cause {}

    /** Too many or too few characters for a check; 0 where there is no such bound. */
    record OfLength(String field, int least, int most, int length) implements Cause {}

    /** Not written as a check's pattern wants it. */
    record NotLikePattern(String field) implements Cause {}

    /** None of the values of a check. */
    record NoneOf(String field, List<Value> values) implements Cause {}

    /** A check whose formula says no. */
    record DoesNotHold(String formula) implements Cause {}

    /** A check, or a step, whose formula fails. */
    record FormulaFails(boolean step, String why) implements Cause {}

    /** What a rule's maker says when it is broken. */
    record Told(Code code, String words) implements Cause {}

    /**
     * Another record has the same values.
     *
     * @param told what the constraint's maker says first; or empty
     * @param record empty where it is not to be seen
     */
    record Alike(String told, Optional<String> record, List<Value> values) implements Cause {}

    /**
     * Other records are nearly the same, the nearest first.
     *
     * @param unseen how many are besides that may not be told of
     */
    record NearlyAlike(List<Like> records, int unseen) implements Cause {}

    /**
     * A record that is nearly the same as an entry.
     *
     * @param called what it is called where it is told of, such as {@code Row 12}
     * @param values what it has in the fields that the rule speaks of
     * @param why what is between them, in words
     */
    record Like(long id, long row, String called, List<Value> values, String why) {}

    /**
     * It is not as what is stored lets one expect.
     *
     * @param within the records that it was held against, or empty for all
     */
    record NotUsual(String field, List<Within> within, Unusual unusual) implements Cause {

        /** How a record of those values is not usual, held against what its group has; empty when it is usual. */
        public static Optional<NotUsual> of(
                Grouping grouping,
                Grouping.Place place,
                Counts counts,
                Function<Column, Value> values,
                Function<Column, String> label) {
            return Unusual.of(grouping, place, counts, values.apply(grouping.column()))
                    .map(unusual -> new NotUsual(
                            label.apply(grouping.column()),
                            grouping.by().stream()
                                    .limit(counts.depth())
                                    .map(part -> new Within(
                                            label.apply(part.column()), part.of(), values.apply(part.column())))
                                    .toList(),
                            unusual));
        }
    }

    /** The records that have the same there as the entry: its value in that field, or the month of it. */
    record Within(String field, For.Of of, Value value) {}

    /** Another record has some of the same time. */
    record Overlaps(String told, Optional<String> record, List<Value> same, Value from, Value to) implements Cause {}

    /** It ends before it begins. */
    record Backwards(String to, String from) implements Cause {}

    /** Another line has the same in these fields. */
    record LineAlike(String line, List<String> fields) implements Cause {}

    /** Fewer lines than needed. */
    record TooFewLines(String lines, int least, int many) implements Cause {}

    /** More lines than are taken. */
    record TooManyLines(String lines, int most, int many) implements Cause {}

    /** A fill finds no row; {@code like} is what is stored and nearly spelled so, the nearest first. */
    record NoRow(String table, List<Value> keys, List<String> like) implements Cause {}

    /**
     * A fill finds several rows.
     *
     * @param many how many; empty when more than are counted
     * @param choose whether one of them is to be chosen
     */
    record SeveralRows(String table, Optional<Integer> many, boolean choose) implements Cause {}

    /** What is to be written back to a record was typed over another value than stands there by now. */
    record SourceChanged(String field, String table, long row, Value now) implements Cause {}

    /** A step's message has nowhere to go. */
    record NoAddress(String to) implements Cause {}

    /** A step can't look for the row to change, since these are empty. */
    record NothingToLookFor(String table, List<String> columns) implements Cause {}

    /** A step finds no row to change, or several. */
    record NotOneRow(String table, boolean several, Map<String, Value> where) implements Cause {}

    /** A step gives a column what it doesn't take. */
    record StepGives(String column, Refusal refusal) implements Cause {}

    /** A step asks. */
    record Question(String text) implements Cause {}

    /** A step's question was answered with cancel. */
    record Cancelled() implements Cause {}

    /** Another table refuses what a step hands on to it. */
    record Elsewhere(String table, Elsewhere.Why why, Optional<String> column) implements Cause {

        /** Why it does. */
        public enum Why {
            ALIKE,
            EMPTY,
            NOT_TAKEN
        }
    }

    /** Another record that was saved meanwhile is in the way. */
    record Overtaken() implements Cause {}

    /** Somebody else is changing the same row. */
    record Busy() implements Cause {}

    /** A link to a record that was removed meanwhile, or that was never there. */
    record LeadsNowhere(String column, boolean removed) implements Cause {}

    /** A check of the table's own is broken. */
    record TableCheck(String column, String check) implements Cause {}

    /** The table's own trigger refuses it, in its words. */
    record TableRefuses(String words) implements Cause {}

    /** The table is a view that takes no entries. */
    record OnlyShown() implements Cause {}

    /** More than the database stores. */
    record NotStorable(String column) implements Cause {}

    /** Something that the door doesn't show. */
    record OutOfView(Code code) implements Cause {}

    /** Which kind of fault it is. */
    default Code code() {
        return switch (this) {
            case Refused(var refusal) ->
                switch (refusal.reason()) {
                    case UNREADABLE -> Code.UNREADABLE;
                    case CHOICE -> Code.CHOICE;
                    case LENGTH -> Code.LENGTH;
                    case RANGE -> Code.RANGE;
                };
            case Missing _, NoField _, NoneFilled _, NeededWith _, TooFewLines _ -> Code.REQUIRED;
            case OutOfRange _, Beyond _, Backwards _, TooManyLines _, NotStorable _ -> Code.RANGE;
            case TooLong _, OfLength _ -> Code.LENGTH;
            case Taken _, Alike _, LineAlike _, Overtaken _, Busy _ -> Code.UNIQUE;
            case NearlyAlike _ -> Code.ALIKE;
            case NotUsual _ -> Code.UNUSUAL;
            case NotInList _, NoneOf _, LeadsNowhere _ -> Code.CHOICE;
            case NotLikePattern _ -> Code.PATTERN;
            case FieldGone _ -> Code.GONE;
            case Locked _ -> Code.LOCKED;
            case Empty _ -> Code.INCOMPLETE;
            case Overlaps _ -> Code.OVERLAP;
            case NoRow _, SeveralRows _, SourceChanged _ -> Code.FILL;
            case Question _, Cancelled _ -> Code.QUESTION;
            case Told(var code, var _) -> code;
            case OutOfView(var code) -> code;
            case NotWorkedOut _,
                    DoesNotHold _,
                    FormulaFails _,
                    NoAddress _,
                    NothingToLookFor _,
                    NotOneRow _,
                    StepGives _,
                    Elsewhere _,
                    TableCheck _,
                    TableRefuses _,
                    OnlyShown _,
                    NumberToCome _ -> Code.FORMULA;
        };
    }
}
