package weft.core.value;

import static weft.core.value.Refusal.said;

import java.math.BigDecimal;
import java.text.Normalizer;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import weft.core.value.Reading.Read;
import weft.core.value.Reading.Refused;
import weft.core.value.Value.Day;
import weft.core.value.Value.Decimal;
import weft.core.value.Value.Hour;
import weft.core.value.Value.Moment;
import weft.core.value.Value.Text;
import weft.core.value.Value.Whole;
import weft.core.value.Value.YesNo;

/**
 * Reads what was typed into typed values. It never fails: what cannot be read comes back as a {@link Refused} with a
 * sentence for the person who typed it. What is typed into a link is read as words, since only stored rows tell which record
 * they mean.
 */
public final class ValueReader {

    /** The most characters a text column takes. */
    public static final int LONGEST_TEXT = 1_000;
    /** The most characters a long text column takes. */
    public static final int LONGEST_LONGTEXT = 100_000;

    /** What is longer is no number, date or time. */
    static final int LONGEST_VALUE = 60;

    /** The most digits before the decimal sign of any number. */
    public static final int MOST_DIGITS = 20;
    /** The most decimals of any number. */
    public static final int MOST_DECIMALS = 15;

    /** So many choices of a list are named to somebody who typed none of them. */
    private static final int SAID = 6;

    private static final Set<String> YES = Set.of("y", "yes", "true", "1");
    private static final Set<String> NO = Set.of("n", "no", "false", "0");

    private final Conventions conventions;
    private final Optional<LocalDateTime> now;
    private final Dates dates;
    private final Numbers numbers;

    /** A reader under these conventions at this moment, which {@code t}, {@code +3} and {@code mon} count from. */
    public ValueReader(Conventions conventions, LocalDateTime now) {
        this(conventions, Optional.of(now), false);
    }

    private ValueReader(Conventions conventions, Optional<LocalDateTime> now, boolean grouped) {
        this.conventions = conventions;
        this.now = now;
        this.numbers = new Numbers(conventions.decimalSign(), grouped);
        this.dates = new Dates(conventions.dayOrder(), now.map(LocalDateTime::toLocalDate));
    }

    /**
     * A reader of stored text, such as a file's: nothing in it counts from today, dates must name their year, and the order
     * of their digits is what the conventions say even where only the other would make a date.
     */
    public static ValueReader ofStored(Conventions conventions) {
        return new ValueReader(conventions, Optional.empty(), false);
    }

    /**
     * A reader of stored numbers of which it is known that the sign which is not the decimal sign groups thousands, so that
     * "1,234" is 1234 where the decimal sign is a point.
     */
    public static ValueReader ofGrouped(Conventions conventions) {
        return new ValueReader(conventions, Optional.empty(), true);
    }

    /** Reads one field's input as a value of that kind. */
    public Reading read(Kind kind, Typed typed) {
        return switch (typed) {
            case Typed.Keyed(var text) -> read(kind, text);
            case Typed.Given(var value) -> take(kind, value);
            case Typed.Kept(var value) -> value.isEmpty() ? Reading.EMPTY : new Read(value, "");
            case Typed.Foreign(var what) -> new Refused(new Refusal.Foreign(kind.type(), what));
        };
    }

    /** Reads keys as a value of that kind; blanks around it do not count. */
    public Reading read(Kind kind, String keyed) {
        var text = NormalText.of(keyed);
        if (text.isEmpty()) {
            return Reading.EMPTY;
        }
        if (NormalText.hasUnstorable(text)) {
            return new Refused(new Refusal.Unstorable());
        }
        return switch (kind.type()) {
            case TEXT -> text(oneLine(text), LONGEST_TEXT);
            case LONGTEXT -> text(text, LONGEST_LONGTEXT);
            case CHOICE -> choice(text, kind.choices());
            case YESNO -> yesNo(text);
            case WHOLE -> whole(text);
            case DECIMAL -> decimal(text, kind);
            case DATE -> date(text);
            case TIME -> hour(text);
            case DATETIME -> moment(text);
            case PICTURE -> picture(text);
            case LINK -> text(oneLine(text), LONGEST_TEXT);
        };
    }

    private Reading take(Kind kind, Value value) {
        if (value.isEmpty()) {
            return Reading.EMPTY;
        }
        return switch (kind.type()) {
            case TEXT, LONGTEXT, CHOICE ->
                switch (value) {
                    case Text(var text) -> read(kind, text);
                    case Value.Link link when link.row() > 0 -> read(kind, link.shown());
                    default -> otherThan(kind, value);
                };
            case DECIMAL ->
                switch (value) {
                    case Whole(var number) -> fit(BigDecimal.valueOf(number), kind, "");
                    case Decimal(var number) -> fit(number, kind, "");
                    default -> otherThan(kind, value);
                };
            case WHOLE ->
                value instanceof Decimal(var number)
                        ? wholeOf(number, number.toPlainString())
                        : as(Whole.class, kind, value);
            case YESNO -> as(YesNo.class, kind, value);
            case DATE -> as(Day.class, kind, value);
            case TIME -> as(Hour.class, kind, value);
            case DATETIME -> as(Moment.class, kind, value);
            case PICTURE -> value instanceof Text(var text) ? read(kind, text) : as(Value.Image.class, kind, value);
            case LINK ->
                switch (value) {
                    case Text _, Whole _, Decimal _, Day _ -> read(kind, value.spoken());
                    default -> as(Value.Link.class, kind, value);
                };
        };
    }

    private static Reading as(Class<? extends Value> wanted, Kind kind, Value value) {
        return wanted.isInstance(value) ? new Read(value, "") : otherThan(kind, value);
    }

    private static Reading otherThan(Kind kind, Value value) {
        return new Refused(new Refusal.OfOtherType(kind.type(), value));
    }

    private static Reading text(String text, int most) {
        return text.length() <= most
                ? new Read(new Text(text), "")
                : new Refused(new Refusal.TooLong(text.length(), most));
    }

    private static Reading choice(String text, List<String> choices) {
        if (text.length() > LONGEST_TEXT) {
            return notListed(text, choices);
        }
        var exact = choices.stream().filter(text::equals).findFirst();
        var folded = fold(text);
        var same = exact.or(() ->
                choices.stream().filter(choice -> alike(choice).equals(folded)).findFirst());
        var starts = choices.stream()
                .filter(choice -> alike(choice).startsWith(folded))
                .toList();
        return same.or(() -> starts.size() == 1 ? Optional.of(starts.getFirst()) : Optional.empty())
                .<Reading>map(choice -> new Read(new Text(choice), choice.equals(text) ? "" : choice))
                .orElseGet(() -> notListed(text, choices));
    }

    private static Reading notListed(String text, List<String> choices) {
        return new Refused(new Refusal.NotListed(
                said(text),
                List.copyOf(choices.subList(0, Math.min(SAID, choices.size()))),
                Math.max(0, choices.size() - SAID)));
    }

    /** A choice as what is typed is compared with it. */
    private static String alike(String choice) {
        return fold(NormalText.of(choice));
    }

    private static Reading picture(String text) {
        try {
            return new Read(new Value.Image(UUID.fromString(text)), "");
        } catch (IllegalArgumentException e) {
            return new Refused(new Refusal.NoPicture());
        }
    }

    private static Reading yesNo(String text) {
        // Case is not put aside in a time that grows as the text does.
        var word = text.length() > LONGEST_VALUE ? "" : text.toLowerCase(Locale.ROOT);
        if (YES.contains(word)) {
            return new Read(new YesNo(true), word.equals("yes") ? "" : "yes");
        }
        if (NO.contains(word)) {
            return new Read(new YesNo(false), word.equals("no") ? "" : "no");
        }
        return new Refused(new Refusal.NeitherYesNorNo(said(text)));
    }

    private Reading whole(String text) {
        if (numbers.couldBeThousands(text)) {
            return new Refused(numbers.eitherWay(text));
        }
        return numbers.read(text)
                .map(number -> wholeOf(number, text))
                .orElseGet(() -> new Refused(new Refusal.NoNumber(
                        said(text),
                        true,
                        numbers.meant(text).filter(meant -> meant.indexOf('.') < 0 && meant.indexOf(',') < 0))));
    }

    private static Reading wholeOf(BigDecimal number, String typed) {
        try {
            var whole = number.longValueExact();
            return new Read(new Whole(whole), Long.toString(whole).equals(typed) ? "" : Long.toString(whole));
        } catch (ArithmeticException tooMuch) {
            return number.stripTrailingZeros().scale() > 0
                    ? new Refused(new Refusal.HasDecimals(said(typed)))
                    : new Refused(new Refusal.TooLarge(said(typed), Long.MAX_VALUE));
        }
    }

    private Reading decimal(String text, Kind kind) {
        return numbers.read(text)
                .map(number -> fit(number, kind, text))
                .orElseGet(() -> new Refused(
                        numbers.couldBeThousands(text)
                                ? numbers.eitherWay(text)
                                : new Refusal.NoNumber(
                                        said(text),
                                        false,
                                        Optional.of(numbers.meant(text)
                                                .orElse("12 or 7"
                                                        + conventions
                                                                .decimalSign()
                                                                .sign() + "4")))));
    }

    private static Reading fit(BigDecimal number, Kind kind, String typed) {
        var bare = number.stripTrailingZeros();
        if (bare.precision() - (long) bare.scale() > MOST_DIGITS || bare.scale() > MOST_DECIMALS) {
            return new Refused(new Refusal.TooManyDigits(MOST_DIGITS, MOST_DECIMALS));
        }
        if (kind.scale().isPresent() && bare.scale() > kind.scale().getAsInt()) {
            return new Refused(new Refusal.TooManyDecimals(
                    number.toPlainString(), kind.scale().getAsInt()));
        }
        var value = new Decimal(
                kind.scale().isPresent()
                        ? bare.setScale(kind.scale().getAsInt())
                        : bare.scale() < 0 ? bare.setScale(0) : bare);
        var plain = bare.toPlainString();
        return new Read(value, typed.isEmpty() || Numbers.plain(typed) ? "" : plain);
    }

    private Reading date(String text) {
        return dates.read(text)
                .<Reading>map(date -> new Read(new Day(date), new Day(date).spoken()))
                .orElseGet(() -> new Refused(new Refusal.NoDate(said(text), dates.example())));
    }

    private Reading hour(String text) {
        return Times.read(text, time())
                .<Reading>map(time -> {
                    var hour = new Hour(time);
                    return new Read(hour, hour.spoken().equals(text) ? "" : hour.spoken());
                })
                .orElseGet(() -> new Refused(new Refusal.NoTime(said(text))));
    }

    private Reading moment(String text) {
        if (text.equalsIgnoreCase("now") && now.isPresent()) {
            return spoken(now.get().withSecond(0).withNano(0));
        }
        // A date may hold blanks itself ("1 Aug 2026 9pm"), so every blank, and the T of ISO 8601, is tried as the
        // border.
        for (int border = 0; border < text.length() && text.length() <= LONGEST_VALUE; border++) {
            boolean iso = Character.toUpperCase(text.charAt(border)) == 'T';
            if (text.charAt(border) != ' ' && !iso) {
                continue;
            }
            var after = text.substring(border + 1).strip();
            var date = dates.read(withoutComma(text.substring(0, border).strip()));
            var time = Times.read(iso ? withoutOffset(after) : after, time());
            if (date.isPresent() && time.isPresent()) {
                return spoken(date.get().atTime(time.get()));
            }
        }
        if (dates.read(text).isPresent()) {
            return new Refused(new Refusal.TimeWanted(said(text)));
        }
        if (Times.read(text, time()).isPresent()) {
            return new Refused(new Refusal.DateWanted(said(text), dates.example()));
        }
        return new Refused(new Refusal.NoMoment(said(text), dates.example()));
    }

    private static String withoutComma(String date) {
        return date.endsWith(",") ? date.substring(0, date.length() - 1) : date;
    }

    /** The time of day as the clock showed it there: what ISO 8601 adds about the place's offset is not kept. */
    private static String withoutOffset(String time) {
        return time.replaceFirst("(?:\\.0+)?(?:[zZ]|[-+−][0-9]{2}(?::?[0-9]{2})?)?$", "");
    }

    private Optional<LocalTime> time() {
        return now.map(LocalDateTime::toLocalTime);
    }

    private static Reading spoken(LocalDateTime at) {
        return new Read(new Moment(at), new Moment(at).spoken());
    }

    /** Text without case and accents, for comparing as people compare. */
    public static String fold(String text) {
        return Normalizer.normalize(text, Normalizer.Form.NFD)
                .replaceAll("\\p{M}+", "")
                .toLowerCase(Locale.ROOT);
    }

    private static String oneLine(String text) {
        return text.indexOf('\n') < 0 && text.indexOf('\r') < 0 ? text : text.replaceAll("\\R+", " ");
    }
}
