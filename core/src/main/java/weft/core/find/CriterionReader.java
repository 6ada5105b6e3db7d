package weft.core.find;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import weft.core.find.Criterion.All;
import weft.core.find.Criterion.Any;
import weft.core.find.Criterion.Bound;
import weft.core.find.Criterion.Empty;
import weft.core.find.Criterion.Is;
import weft.core.find.Criterion.Like;
import weft.core.find.Criterion.Not;
import weft.core.find.Criterion.Read;
import weft.core.find.Criterion.Refused;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/**
 * Reads criteria as people type them into the fields of a form: {@code > 70}, {@code 1 to 3}, {@code wen*},
 * {@code "exactly this"}, {@code empty}, {@code not wet}, {@code dry or rain}. {@code not} binds closer than {@code and},
 * {@code and} closer than {@code or}. It never fails: what cannot be read is refused with a sentence for its writer.
 */
public final class CriterionReader {

    /** The most characters of a criterion. */
    public static final int LONGEST = 500;

    private static final String ORDERED = "Write it like %s, > %1$s or %1$s to %s.";

    private final ValueReader values;
    private final Periods periods;

    /** A reader under these conventions at this moment, which "today" and "last month" count from. */
    public CriterionReader(Conventions conventions, LocalDateTime now) {
        this.values = new ValueReader(conventions, now);
        this.periods = new Periods(now.toLocalDate());
    }

    /** Leaves the reading with a sentence, from however deep. */
    private static final class Unreadable extends RuntimeException {
        Unreadable(String sentence) {
            super(sentence, null, false, false);
        }
    }

    /** Reads what is asked of that column. The text is never blank: a field left blank asks nothing. */
    public Criterion.Reading read(Column column, String typed) {
        if (typed.length() > LONGEST) {
            return new Refused("It has %,d characters; the most is %d. Shorten it.".formatted(typed.length(), LONGEST));
        }
        if (typed.indexOf('\0') >= 0) {
            return new Refused("There is a character in it that is in no record. Type it again.");
        }
        try {
            return new Read(any(column, Tokens.of(typed)));
        } catch (Unreadable e) {
            return new Refused(e.getMessage());
        }
    }

    /**
     * What text that may be in any field asks of that column: text has it in it, a list's choices have, numbers, dates and
     * times are it. Empty when the column cannot hold it.
     */
    public Optional<Criterion> anywhere(Column column, String typed) {
        var text = typed.strip();
        try {
            return switch (column.type()) {
                case TEXT, LONGTEXT -> Optional.of(Like.having(text));
                case CHOICE -> {
                    var found = column.choices().stream()
                            .filter(choice -> matches(Like.having(text), choice))
                            .<Criterion>map(choice -> new Is(new Value.Text(choice)))
                            .toList();
                    yield found.isEmpty() ? Optional.empty() : Optional.of(new Any(found));
                }
                case YESNO -> Optional.empty();
                case WHOLE, DECIMAL, DATE, TIME, DATETIME ->
                    Optional.of(span(column, text))
                            .filter(span -> !span.after(span))
                            .map(Span::itself);
            };
        } catch (Unreadable cannotBeThere) {
            return Optional.empty();
        }
    }

    private Criterion any(Column column, Tokens tokens) {
        return joined(tokens, "or", part -> all(column, part), Any::new);
    }

    private Criterion all(Column column, Tokens tokens) {
        return joined(tokens, "and", part -> one(column, part), All::new);
    }

    private static Criterion joined(
            Tokens tokens, String word, Function<Tokens, Criterion> read, Function<List<Criterion>, Criterion> join) {
        var parts = tokens.around(word);
        if (parts.size() > 1 && parts.stream().anyMatch(Tokens::isEmpty)) {
            throw new Unreadable(
                    "Something is missing beside “" + word + "”. To find the word itself, put it in quotes.");
        }
        var criteria = parts.stream().map(read).toList();
        return criteria.size() == 1 ? criteria.getFirst() : join.apply(criteria);
    }

    private Criterion one(Column column, Tokens tokens) {
        if (tokens.begins("not")) {
            if (tokens.all().size() == 1) {
                throw new Unreadable("Something is missing after “not”, such as not empty.");
            }
            return new Not(one(column, tokens.without(1)));
        }
        if (tokens.all().size() == 1 && tokens.begins("empty")) {
            return new Empty();
        }
        if (tokens.all().size() == 1 && tokens.begins("filled")) {
            return new Not(new Empty());
        }
        return switch (column.type()) {
            case TEXT, LONGTEXT -> text(tokens.text());
            case CHOICE -> choice(column, tokens.text());
            case YESNO -> yesNo(tokens.text());
            case WHOLE, DECIMAL, DATE, TIME, DATETIME -> ordered(column, tokens);
        };
    }

    private static Criterion text(String text) {
        if (text.startsWith(">") || text.startsWith("<")) {
            throw new Unreadable("“" + text.charAt(0) + "” compares numbers, dates and times; this field holds text. "
                    + "Type a part of it, or wen* for how it begins.");
        }
        if (text.startsWith("=")) {
            return exactly(unquoted(text.substring(1).strip()));
        }
        if (text.length() > 1 && text.indexOf('"') == 0 && text.indexOf('"', 1) == text.length() - 1) {
            return exactly(unquoted(text));
        }
        var parts = new ArrayList<String>();
        for (var part : starred(text)) {
            if (!part.isEmpty()) {
                parts.add(part);
            }
        }
        if (parts.isEmpty()) {
            if (text.contains("*")) {
                return new Not(new Empty());
            }
            throw new Unreadable("There is nothing in the quotes. To find what has nothing in it, type empty.");
        }
        boolean stars = starred(text).size() > 1;
        return new Like(
                parts,
                stars && !starred(text).getFirst().isEmpty(),
                stars && !starred(text).getLast().isEmpty());
    }

    private static Criterion exactly(String text) {
        if (text.isBlank()) {
            throw new Unreadable("There is nothing in the quotes. To find what has nothing in it, type empty.");
        }
        return new Is(new Value.Text(text));
    }

    /** What stands between the stars; a star in quotes is no star. */
    private static List<String> starred(String text) {
        var parts = new ArrayList<String>();
        var part = new StringBuilder();
        boolean quoted = false;
        for (char c : text.toCharArray()) {
            if (c == '"') {
                quoted = !quoted;
            } else if (c == '*' && !quoted) {
                parts.add(part.toString());
                part.setLength(0);
            } else {
                part.append(c);
            }
        }
        parts.add(part.toString());
        return parts;
    }

    private static String unquoted(String text) {
        return text.replace("\"", "");
    }

    /** A list has no other values than its own, so that what is asked is always which of them. */
    private static Criterion choice(Column column, String text) {
        var choices = column.choices();
        var bare = ValueReader.fold(unquoted(text));
        var same = choices.stream()
                .filter(each -> ValueReader.fold(each).equals(bare))
                .toList();
        var found = same.isEmpty() && text(text) instanceof Like like
                ? choices.stream().filter(each -> matches(like, each)).toList()
                : same;
        if (found.isEmpty()) {
            var shown = choices.subList(0, Math.min(6, choices.size()));
            throw new Unreadable("“" + text + "” is not on the list. There is " + String.join(", ", shown)
                    + (choices.size() > shown.size() ? " and " + (choices.size() - shown.size()) + " more" : "")
                    + ".");
        }
        var criteria = found.stream()
                .<Criterion>map(each -> new Is(new Value.Text(each)))
                .toList();
        return criteria.size() == 1 ? criteria.getFirst() : new Any(criteria);
    }

    private static boolean matches(Like like, String value) {
        var folded = ValueReader.fold(value);
        int at = 0;
        for (int part = 0; part < like.parts().size(); part++) {
            var wanted = ValueReader.fold(like.parts().get(part));
            int found = folded.indexOf(wanted, at);
            if (found < 0 || part == 0 && like.begins() && found > 0) {
                return false;
            }
            at = found + wanted.length();
        }
        var last = ValueReader.fold(like.parts().getLast());
        return !like.ends() || folded.endsWith(last);
    }

    private Criterion yesNo(String text) {
        return switch (values.read(Kind.of(ColumnType.YESNO), text)) {
            case Reading.Read(var value, var _) -> new Is(value);
            case Reading.Refused _ -> throw new Unreadable("Type y, n, empty or filled.");
        };
    }

    private Criterion ordered(Column column, Tokens tokens) {
        var text = tokens.text();
        for (var sign : List.of(">=", "≥", "<=", "≤", ">", "<", "=")) {
            if (text.startsWith(sign)) {
                return compared(column, sign, text.substring(sign.length()).strip());
            }
        }
        if (tokens.begins("at", "least") || tokens.begins("at", "most")) {
            return compared(
                    column,
                    tokens.begins("at", "least") ? ">=" : "<=",
                    tokens.without(2).text());
        }
        if (tokens.begins("above") || tokens.begins("after")) {
            return compared(column, ">", tokens.without(1).text());
        }
        if (tokens.begins("below") || tokens.begins("before")) {
            return compared(column, "<", tokens.without(1).text());
        }
        boolean from = tokens.begins("from");
        var ends = (from ? tokens.without(1) : tokens.begins("up", "to") ? tokens.without(1) : tokens).around("to");
        if (ends.size() > 2) {
            throw unreadable(column, text);
        }
        if (ends.size() == 1) {
            return compared(column, from ? ">=" : "=", ends.getFirst().text());
        }
        if (ends.getFirst().isEmpty()) {
            return compared(column, "<=", ends.getLast().text());
        }
        if (ends.getLast().isEmpty()) {
            throw new Unreadable("Something is missing after “to”. Write it like "
                    + ends.getFirst().text() + " to …");
        }
        var first = span(column, ends.getFirst().text());
        var last = span(column, ends.getLast().text());
        if (first.after(last)) {
            throw new Unreadable("“" + text + "” goes from the larger to the smaller. Write it like "
                    + ends.getLast().text() + " to " + ends.getFirst().text() + ".");
        }
        return first.through(last);
    }

    private Criterion compared(Column column, String sign, String operand) {
        if (operand.isBlank()) {
            throw new Unreadable(
                    "Something is missing after “" + sign + "”, such as " + sign + " " + example(column) + ".");
        }
        var span = span(column, operand);
        return switch (sign) {
            case ">" -> span.above();
            case ">=", "≥" -> span.atLeast();
            case "<" -> span.below();
            case "<=", "≤" -> span.atMost();
            default -> {
                if (span.after(span)) {
                    throw new Unreadable("“" + operand + "” has decimals; this field holds whole numbers.");
                }
                yield span.itself();
            }
        };
    }

    private Span span(Column column, String operand) {
        var text = unquoted(operand);
        if (column.type() == ColumnType.DATE || column.type() == ColumnType.DATETIME) {
            var period = periods.read(text).or(() -> day(text).map(day -> new Periods.Period(day, day)));
            if (period.isPresent()) {
                return column.type() == ColumnType.DATE ? days(period.get()) : moments(period.get());
            }
        }
        // A whole number's ends may have decimals: above 7.5 is at least 8.
        var kind = Kind.of(column.type() == ColumnType.WHOLE ? ColumnType.DECIMAL : column.type());
        return switch (values.read(kind, text)) {
            case Reading.Read(Value.Decimal(var number), var _)
            when column.type() == ColumnType.WHOLE ->
                new Span(
                        new Bound(whole(number, RoundingMode.CEILING), true),
                        new Bound(whole(number, RoundingMode.FLOOR), true));
            case Reading.Read(var value, var _) -> Span.of(value);
            case Reading.Refused _ -> throw unreadable(column, text);
        };
    }

    private Optional<LocalDate> day(String text) {
        return values.read(Kind.of(ColumnType.DATE), text) instanceof Reading.Read(Value.Day(var date), var _)
                ? Optional.of(date)
                : Optional.empty();
    }

    private static Span days(Periods.Period period) {
        return new Span(new Bound(new Value.Day(period.first()), true), new Bound(new Value.Day(period.last()), true));
    }

    private static Span moments(Periods.Period period) {
        return new Span(
                new Bound(new Value.Moment(period.first().atStartOfDay()), true),
                new Bound(new Value.Moment(period.last().plusDays(1).atStartOfDay()), false));
    }

    private static Value.Whole whole(BigDecimal number, RoundingMode towards) {
        try {
            return new Value.Whole(number.setScale(0, towards).longValueExact());
        } catch (ArithmeticException tooLarge) {
            throw new Unreadable("“" + number.toPlainString() + "” is larger than any number here.");
        }
    }

    private static Unreadable unreadable(Column column, String text) {
        return new Unreadable("“" + text + "” can't be read as " + column.type().inWords() + ". "
                + ORDERED.formatted(example(column), later(column))
                + (column.type() == ColumnType.DATE || column.type() == ColumnType.DATETIME
                        ? " May 2026 and last month are understood too."
                        : ""));
    }

    private static String example(Column column) {
        return switch (column.type()) {
            case DATE, DATETIME -> "2026-05-01";
            case TIME -> "9:30";
            default -> "70";
        };
    }

    private static String later(Column column) {
        return switch (column.type()) {
            case DATE, DATETIME -> "2026-05-31";
            case TIME -> "12:00";
            default -> "80";
        };
    }
}
