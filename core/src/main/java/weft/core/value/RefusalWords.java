package weft.core.value;

import java.util.List;
import java.util.stream.Collectors;

/** What is said to the person who typed something that was not taken. */
final class RefusalWords {

    private RefusalWords() {}

    static String of(Refusal refusal) {
        return switch (refusal) {
            case Refusal.Foreign(var type, var what) -> "This field takes %s, not %s.".formatted(type.inWords(), what);
            case Refusal.OfOtherType(var type, Value.Link _) ->
                "This field takes %s, not a link.".formatted(type.inWords());
            case Refusal.OfOtherType(var type, var value) ->
                "This field takes %s; %s is not.".formatted(type.inWords(), value.plain());
            case Refusal.Unstorable() -> "There is a character in it that cannot be stored. Type it again.";
            case Refusal.TooLong(int length, int most) ->
                "It has %,d characters; the most is %,d. Shorten it.".formatted(length, most);
            case Refusal.NotListed(var typed, var choices, int more) ->
                "%s is not on the list. Choose %s.".formatted(quoted(typed), listed(choices, more));
            case Refusal.NoPicture() -> "A picture can't be typed. Drop one here, paste it or choose a file.";
            case Refusal.NeitherYesNorNo(var typed) -> quoted(typed) + " is neither yes nor no. Type y or n.";
            case Refusal.EitherWay(var typed, var grouped, var decimal) ->
                "“%s” could be %s or %s. Write it so that it can be only one.".formatted(typed, grouped, decimal);
            case Refusal.NoNumber(var typed, boolean whole, var example) ->
                "%s can't be read as a %s. %s"
                        .formatted(
                                quoted(typed),
                                whole ? "whole number" : "number",
                                example.map(meant -> "Write it like " + meant + ".")
                                        .orElse("Use digits only, such as 42."));
            case Refusal.HasDecimals(var typed) -> quoted(typed) + " has decimals; this field takes a whole number.";
            case Refusal.TooLarge(var typed, long most) ->
                "%s is too large. The most is %d.".formatted(quoted(typed), most);
            case Refusal.TooManyDigits(int digits, int decimals) ->
                "The number is too long. Up to %d digits and %d decimals are kept.".formatted(digits, decimals);
            case Refusal.TooManyDecimals(var number, int most) ->
                "%s has more decimals than %d, the most here.".formatted(number, most);
            case Refusal.NoDate(var typed, var example) ->
                "%s can't be read as a date. Write it like %s.".formatted(quoted(typed), example);
            case Refusal.NoTime(var typed) ->
                quoted(typed) + " can't be read as a time. Write it like 9:30, 930 or 9pm.";
            case Refusal.TimeWanted(var typed) -> "A time is needed after the date, such as %s 9:30.".formatted(typed);
            case Refusal.DateWanted(var typed, var example) ->
                "A date is needed before the time, such as %s %s.".formatted(example, typed);
            case Refusal.NoMoment(var typed, var example) ->
                "%s can't be read as a date and time. Write it like %s 9:30.".formatted(quoted(typed), example);
            case Refusal.NoAnswer(var why) -> why;
            case Refusal.Below(var least) -> "It is below %s.".formatted(least.spoken());
            case Refusal.Above(var most) -> "It is above %s.".formatted(most.spoken());
            case Refusal.RecordGone(var table) ->
                "The record chosen is in %s no more. Choose another.".formatted(table);
            case Refusal.NoRecord(var table, var typed, var by, var like) ->
                "%s has no record %s. %s%s"
                        .formatted(
                                table,
                                quoted(typed),
                                Refusal.meant(like),
                                by.map("Type its %s, or choose it from the list."::formatted)
                                        .orElse("Type its row, such as row 3."));
            case Refusal.SeveralRecords(var table, var typed, var many, var rows) ->
                "%s records of %s are called %s: rows %s. Add which, such as “%s (row %d)”."
                        .formatted(
                                many.map(Object::toString).orElse("Many"),
                                table,
                                quoted(typed),
                                rows.stream().map(Object::toString).collect(Collectors.joining(", ")),
                                typed,
                                rows.getFirst());
        };
    }

    private static String listed(List<String> choices, int more) {
        return more > 0
                ? String.join(", ", choices) + " or one of " + more + " more"
                : choices.size() < 2
                        ? String.join("", choices)
                        : String.join(", ", choices.subList(0, choices.size() - 1)) + " or " + choices.getLast();
    }

    static String quoted(String text) {
        return "“" + text + "”";
    }
}
