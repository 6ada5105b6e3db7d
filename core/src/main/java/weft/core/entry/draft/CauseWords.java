package weft.core.entry.draft;

import java.time.LocalDate;
import java.time.format.TextStyle;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import weft.core.usual.Unusual;
import weft.core.value.ColumnType;
import weft.core.value.Refusal;
import weft.core.value.Value;

/** What is said to the keyer of what was found: what is wrong and what would be right. */
final class CauseWords {

    private CauseWords() {}

    static String of(Cause cause) {
        return switch (cause) {
            case Cause.Refused(var refusal) -> refusal.words();
            case Cause.NotWorkedOut(var field, var refusal) ->
                "%s can't be worked out. %s".formatted(field, refusal.words());
            case Cause.Missing(var field, var type, var by) -> "%s is needed. %s".formatted(field, wanted(type, by));
            case Cause.FieldGone(var field) ->
                "“" + field + "” is not on this form any more. Take out what was typed there to save the rest.";
            case Cause.Locked(var field, var stays) ->
                "%s is locked and stays %s. Take back what was typed there."
                        .formatted(field, stays.isEmpty() ? "empty" : "“" + stays.spoken() + "”");
            case Cause.NumberToCome(var field) ->
                "A rule of this form asks for %s of the entry before, which is given when that is saved. Save this line after it."
                        .formatted(field);
            case Cause.NoField(var column, boolean hidden) ->
                hidden
                        ? column
                                + " is needed in every record, but this form does not show it here. Its builder can mend that."
                        : column + " is needed, but this form has no field for it. Its builder can add one.";
            case Cause.OutOfRange range -> outOfRange(range);
            case Cause.TooLong(var field, int most, int length, boolean unique) ->
                unique
                        ? "%s may have %,d characters at most, since no two records may share it. Shorten it."
                                .formatted(field, most)
                        : "%s may have %,d characters at most. This has %,d.".formatted(field, most, length);
            case Cause.Taken(var field, var record, var value) ->
                record.map(called ->
                                "%s already has %s. No two records may share it.".formatted(called, value.spoken()))
                        .orElse(field + " is in another record already. No two may share it.");
            case Cause.NotInList(var value, var table) ->
                "%s is not in %s. Choose one of its list.".formatted(value.spoken(), table);
            case Cause.NoneFilled(var fields) -> "Fill at least one of %s.".formatted(listed(fields));
            case Cause.NeededWith(var field, var filled) ->
                "%s is filled, so %s is needed too.".formatted(filled, field);
            case Cause.Empty(var fields) -> listed(fields) + (fields.size() == 1 ? " is empty." : " are empty.");
            case Cause.Beyond(var field, var value, var side, var bound) ->
                "%s is %s, %s %s.".formatted(field, value.spoken(), side.word(), bound.spoken());
            case Cause.OfLength(var field, int least, int most, int length) ->
                "%s must have %s; it has %d.".formatted(field, characters(least, most), length);
            case Cause.NotLikePattern(var field) -> field + " is not written as it should be.";
            case Cause.NoneOf(var field, var values) -> "%s must be one of %s.".formatted(field, spoken(values, ", "));
            case Cause.DoesNotHold(var formula) -> "This must hold: %s.".formatted(formula);
            case Cause.FormulaFails(boolean step, var why) ->
                "A %s can't be worked out: %s Its builder must mend it.".formatted(step ? "step" : "check", why);
            case Cause.Told(var _, var words) -> words;
            case Cause.Alike(var told, var record, var values) ->
                after(
                        told,
                        record.map(called -> "%s already has %s.".formatted(called, joined(values)))
                                .orElse("Another record has the same already."));
            case Cause.NearlyAlike(var records, int unseen) -> alike(records, unseen);
            case Cause.NotUsual(var field, var within, var unusual) -> unusual(field, within(within), unusual);
            case Cause.Overlaps(var told, var record, var same, var from, var to) ->
                after(
                        told,
                        record.map(called -> "%s already has %s from %s to %s."
                                        .formatted(
                                                called,
                                                same.isEmpty() ? "something" : spoken(same, ", "),
                                                from.spoken(),
                                                to.spoken()))
                                .orElse("Another record has some of this time already."));
            case Cause.Backwards(var to, var from) -> "%s must be after %s.".formatted(to, from);
            case Cause.LineAlike(var line, var fields) ->
                "%s has the same %s.".formatted(line, String.join(" and ", fields));
            case Cause.TooFewLines(var lines, int least, int many) ->
                "%s needs at least %s; there %s.".formatted(lines, lines(least), many == 1 ? "is 1" : "are " + many);
            case Cause.TooManyLines(var lines, int most, int many) ->
                "%s takes at most %s; there are %d. Take some out.".formatted(lines, lines(most), many);
            case Cause.NoRow(var table, var keys, var like) ->
                "%s has no row with %s. %s"
                        .formatted(table, spoken(keys, " and "), Refusal.meant(like))
                        .strip();
            case Cause.SeveralRows(var table, var many, boolean choose) ->
                "%s rows of %s match.%s"
                        .formatted(
                                many.map(Object::toString).orElse("Many"), table, choose ? " Choose one of them." : "");
            case Cause.SourceChanged(var field, var table, long row, var now) ->
                "%s in %s row %d was changed meanwhile and is %s now. What is typed here would be written over it."
                        .formatted(field, table, row, now.isEmpty() ? "empty" : "“" + now.spoken() + "”");
            case Cause.NoAddress(var to) -> "“%s” is no e-mail address that a message could be sent to.".formatted(to);
            case Cause.NothingToLookFor(var table, var columns) ->
                "The row of %s to change can't be found: %s is empty.".formatted(table, String.join(", ", columns));
            case Cause.NotOneRow(var table, boolean several, var where) ->
                "%s row of %s has %s. Nothing was changed."
                        .formatted(
                                several ? "More than one" : "No",
                                table,
                                where.entrySet().stream()
                                        .map(each -> each.getKey() + " "
                                                + each.getValue().spoken())
                                        .collect(Collectors.joining(", ")));
            case Cause.StepGives(var column, var refusal) ->
                "%s can't take what a step gives it: %s".formatted(column, refusal.words());
            case Cause.Question(var text) -> text;
            case Cause.Cancelled() -> "Nothing was saved: a question was answered with cancel.";
            case Cause.Elsewhere(var table, var why, var column) ->
                "Nothing was saved: %s %s."
                        .formatted(
                                table,
                                switch (why) {
                                    case ALIKE -> "has such a row already";
                                    case EMPTY ->
                                        "needs %s, which the step leaves empty".formatted(column.orElse("a value"));
                                    case NOT_TAKEN ->
                                        "does not take the value for %s".formatted(column.orElse("a column"));
                                });
            case Cause.Overtaken() -> "Another record that was just saved is in the way. Try again.";
            case Cause.Busy() -> "Somebody else is changing the same row just now. Try again.";
            case Cause.LeadsNowhere(var column, boolean removed) ->
                removed
                        ? column + " leads to a record that was removed meanwhile. Choose another."
                        : column + " names nothing that is there. Type one that is, or add it first.";
            case Cause.TableCheck(var column, var check) ->
                "%s breaks what the table itself checks: %s. Look at its values again.".formatted(column, check);
            case Cause.TableRefuses(var words) -> "The table itself refused it: %s".formatted(words);
            case Cause.OnlyShown() -> "These records come of a view. It takes no entries.";
            case Cause.NotStorable(var column) -> column + " is outside what may be stored.";
            case Cause.OutOfView(var _) ->
                "Something that this door does not show is in the way. Tell who made the form.";
        };
    }

    private static String wanted(ColumnType type, Optional<String> by) {
        return switch (type) {
            case CHOICE -> "Choose one of the list.";
            case YESNO -> "Type y or n.";
            case DATE -> "Type a date; t is today.";
            case TIME -> "Type a time, such as 930.";
            case DATETIME -> "Type a date and a time.";
            case WHOLE, DECIMAL -> "Type a number.";
            case TEXT, LONGTEXT -> "Type it here.";
            case PICTURE -> "Drop one here, paste it or choose a file.";
            case LINK ->
                by.map(title -> "Type its %s, or choose it from the list.".formatted(lowered(title)))
                        .orElse("Choose it from the list.");
        };
    }

    private static String lowered(String title) {
        boolean word = title.length() > 1 && Character.isLowerCase(title.charAt(1));
        return word ? title.substring(0, 1).toLowerCase(Locale.ROOT) + title.substring(1) : title;
    }

    private static String outOfRange(Cause.OutOfRange range) {
        var least = range.least().map(Value::spoken);
        var most = range.most().map(Value::spoken);
        return "%s must be %s. %s is %s it%s"
                .formatted(
                        range.field(),
                        least.isPresent() && most.isPresent()
                                ? "between " + least.get() + " and " + most.get()
                                : least.map(min -> "at least " + min).orElseGet(() -> "at most " + most.orElseThrow()),
                        range.value().spoken(),
                        range.side().word(),
                        range.meant().map(meant -> "; " + meant + "?").orElse("."));
    }

    private static String characters(int least, int most) {
        return most <= 0
                ? "at least " + least + " characters"
                : least <= 0
                        ? "at most " + most + " characters"
                        : least == most ? least + " characters" : least + " to " + most + " characters";
    }

    private static String after(String told, String words) {
        return told.isBlank() ? words : told + " " + words;
    }

    /** Values that belong together: “canoe 3, on 1 Aug 2026 at 9:30”. */
    private static String joined(List<Value> values) {
        var words = new StringBuilder();
        for (var value : values) {
            // The record in the form, which a line links to, goes without saying.
            if (value.spoken().isEmpty()) {
                continue;
            }
            var before = switch (value) {
                case Value.Hour _, Value.Moment _ -> " at ";
                case Value.Day _ -> " on ";
                default -> ", ";
            };
            words.append(words.isEmpty() ? "" : before).append(value.spoken());
        }
        return words.toString();
    }

    private static String unusual(String field, String within, Unusual unusual) {
        return switch (unusual) {
            case Unusual.Amount(var value, var least, var most, long records, long beyond, var _) ->
                "%s is %s. Of %,d records%s, %s from %s to %s."
                        .formatted(
                                field,
                                value.spoken(),
                                records,
                                within,
                                beyond == 0 ? "all are" : "all but %,d are".formatted(beyond),
                                least.spoken(),
                                most.spoken());
            case Unusual.Word(var value, long records, long times) ->
                "%s is %s in %,d of %,d records%s.".formatted(field, value.spoken(), times, records, within);
        };
    }

    /** Which records those are: {@code with River Marrow Burn and Taken on in November}. */
    private static String within(List<Cause.Within> within) {
        return within.isEmpty()
                ? ""
                : " with "
                        + within.stream()
                                .map(part -> part.field()
                                        + switch (part.of()) {
                                            case VALUE -> " " + part.value().spoken();
                                            case MONTH ->
                                                " in "
                                                        + day(part.value())
                                                                .getMonth()
                                                                .getDisplayName(TextStyle.FULL, Locale.ENGLISH);
                                            case WEEKDAY ->
                                                " on a "
                                                        + day(part.value())
                                                                .getDayOfWeek()
                                                                .getDisplayName(TextStyle.FULL, Locale.ENGLISH);
                                            case HOUR -> " in the hour from %d:00".formatted(hour(part.value()));
                                        })
                                .collect(Collectors.joining(" and "));
    }

    private static LocalDate day(Value value) {
        return value instanceof Value.Moment(var at) ? at.toLocalDate() : ((Value.Day) value).date();
    }

    private static int hour(Value value) {
        return value instanceof Value.Moment(var at)
                ? at.getHour()
                : ((Value.Hour) value).time().getHour();
    }

    private static String alike(List<Cause.Like> records, int unseen) {
        var hidden = unseen == 1 ? "1 record that you can't see here" : unseen + " records that you can't see here";
        if (records.isEmpty()) {
            return hidden + (unseen == 1 ? " is nearly the same." : " are nearly the same.");
        }
        var first = records.getFirst();
        var more = records.size() - 1;
        return "%s is nearly the same: %s (%s).%s%s"
                .formatted(
                        first.called(),
                        spoken(first.values(), ", "),
                        first.why(),
                        more == 0 ? "" : more == 1 ? " So is one more." : " So are %d more.".formatted(more),
                        unseen == 0 ? "" : (unseen == 1 ? " So is " : " So are ") + hidden + ".");
    }

    private static String spoken(List<Value> values, String between) {
        return values.stream().map(Value::spoken).collect(Collectors.joining(between));
    }

    private static String listed(List<String> fields) {
        return fields.size() == 1
                ? fields.getFirst()
                : String.join(", ", fields.subList(0, fields.size() - 1)) + " and " + fields.getLast();
    }

    private static String lines(int lines) {
        return lines == 1 ? "1 line" : lines + " lines";
    }
}
