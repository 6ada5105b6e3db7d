package weft.core.value;

import java.util.List;
import java.util.Optional;
import weft.core.value.Reading.Reason;

/**
 * Why something typed was not taken, with all that is said of it and no more, so that an answer does not grow with what was
 * sent or with a list; {@link RefusalWords} makes the sentence.
 */
public sealed interface Refusal {

    /** Something that is no single value, such as a list, where the type takes one. */
    record Foreign(ColumnType type, String what) implements Refusal {}

    /** A value of another type. */
    record OfOtherType(ColumnType type, Value value) implements Refusal {}

    /** A character that no record can hold. */
    record Unstorable() implements Refusal {}

    /** More characters than the type takes. */
    record TooLong(int length, int most) implements Refusal {}

    /**
     * No choice of the list.
     *
     * @param choices the first few of it
     * @param more how many others there are
     */
    record NotListed(String typed, List<String> choices, int more) implements Refusal {}

    /** Keys, where a picture goes. */
    record NoPicture() implements Refusal {}

    /** Neither yes nor no. */
    record NeitherYesNorNo(String typed) implements Refusal {}

    /** A number whose sign could group thousands or come before decimals. */
    record EitherWay(String typed, String grouped, String decimal) implements Refusal {}

    /**
     * No number.
     *
     * @param whole whether a whole one is wanted
     * @param example how it, or one like it, would be read
     */
    record NoNumber(String typed, boolean whole, Optional<String> example) implements Refusal {}

    /** Decimals, where a whole number goes. */
    record HasDecimals(String typed) implements Refusal {}

    /** A whole number that is larger than any column holds. */
    record TooLarge(String typed, long most) implements Refusal {}

    /** More digits or decimals than any column holds. */
    record TooManyDigits(int mostDigits, int mostDecimals) implements Refusal {}

    /** More decimals than this column holds. */
    record TooManyDecimals(String number, int most) implements Refusal {}

    /** No date. */
    record NoDate(String typed, String example) implements Refusal {}

    /** No time of day. */
    record NoTime(String typed) implements Refusal {}

    /** A date without a time. */
    record TimeWanted(String typed) implements Refusal {}

    /** A time without a date. */
    record DateWanted(String typed, String example) implements Refusal {}

    /** No date and time. */
    record NoMoment(String typed, String example) implements Refusal {}

    /** A formula that could not be worked out, in its engine's words. */
    record NoAnswer(String why) implements Refusal {}

    /** Less than the least. */
    record Below(Value least) implements Refusal {}

    /** More than the most. */
    record Above(Value most) implements Refusal {}

    /** A link to a record that is gone. */
    record RecordGone(String table) implements Refusal {}

    /**
     * A link to a record that is not there.
     *
     * @param by the title of the column whose value leads to one; empty when only its row does
     * @param like what is stored and nearly spelled so, the nearest first
     */
    record NoRecord(String table, String typed, Optional<String> by, List<String> like) implements Refusal {}

    /**
     * A link that several records are meant by.
     *
     * @param many how many; empty when more than are counted
     * @param rows those of the first few
     */
    record SeveralRecords(String table, String typed, Optional<Integer> many, List<Long> rows) implements Refusal {}

    /** Which kind of fault it is. */
    default Reason reason() {
        return switch (this) {
            case NotListed _, RecordGone _, NoRecord _, SeveralRecords _ -> Reason.CHOICE;
            case TooLong _ -> Reason.LENGTH;
            case TooLarge _, TooManyDigits _, TooManyDecimals _, Below _, Above _ -> Reason.RANGE;
            case Foreign _,
                    OfOtherType _,
                    Unstorable _,
                    NoPicture _,
                    NeitherYesNorNo _,
                    EitherWay _,
                    NoNumber _,
                    HasDecimals _,
                    NoDate _,
                    NoTime _,
                    TimeWanted _,
                    DateWanted _,
                    NoMoment _,
                    NoAnswer _ -> Reason.UNREADABLE;
        };
    }

    /** What was typed, as far as it is said. */
    static String said(String typed) {
        return typed.length() > 40 ? typed.substring(0, 39) + "…" : typed;
    }

    /** Asks whether one of these is meant, with a blank after it; nothing where there is none. */
    static String meant(List<String> like) {
        return like.isEmpty()
                ? ""
                : "Is it "
                        + String.join(
                                " or ", like.stream().map(RefusalWords::quoted).toList())
                        + "? ";
    }

    /** It in a plain sentence or two: what is wrong and what would be right. */
    default String words() {
        return RefusalWords.of(this);
    }
}
