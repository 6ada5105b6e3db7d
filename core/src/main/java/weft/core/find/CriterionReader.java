package weft.core.find;

import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.regex.Pattern;
import weft.core.find.Criterion.All;
import weft.core.find.Criterion.Any;
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
import weft.core.value.NormalText;
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

    private static final Pattern COUNTED = Pattern.compile("[-+−]\\s*[0-9]+");

    private final ValueReader values;
    private final OrderedCriteria ordered;

    /** A reader under these conventions at this moment, which "today" and "last month" count from. */
    public CriterionReader(Conventions conventions, LocalDateTime now) {
        this(conventions, now, _ -> {});
    }

    CriterionReader(Conventions conventions, LocalDateTime now, Consumer<String> operands) {
        this.values = new ValueReader(conventions, now);
        this.ordered = new OrderedCriteria(values, new Periods(now.toLocalDate()), operands);
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
            var tokens = Tokens.of(NormalText.of(typed));
            return new Read(
                    any(column, column.type() == ColumnType.CHOICE ? tokens.keeping(column.choices()) : tokens));
        } catch (Unreadable e) {
            return new Refused(e.sentence());
        }
    }

    /**
     * What text that may be in any field asks of that column: text has it in it, a list's choices have, numbers, dates and
     * times are it. Empty when the column cannot hold it.
     */
    public Optional<Criterion> anywhere(Column column, String typed) {
        var text = NormalText.of(typed);
        if (text.indexOf('\0') >= 0) {
            return Optional.empty();
        }
        try {
            return switch (column.type()) {
                case TEXT, LONGTEXT, LINK -> Optional.of(Like.having(text));
                case CHOICE -> {
                    var found = column.choices().stream()
                            .filter(choice -> TextCriteria.matches(Like.having(text), choice))
                            .<Criterion>map(choice -> new Is(new Value.Text(choice)))
                            .toList();
                    yield found.isEmpty() ? Optional.empty() : Optional.of(new Any(found));
                }
                case YESNO, PICTURE -> Optional.empty();
                // "-83" counts days only where a date is asked for.
                case DATE, DATETIME -> COUNTED.matcher(text).matches() ? Optional.empty() : it(column, text);
                case WHOLE, DECIMAL, TIME -> it(column, text);
            };
        } catch (Unreadable cannotBeThere) {
            return Optional.empty();
        }
    }

    private Optional<Criterion> it(Column column, String text) {
        return Optional.of(ordered.span(column, text))
                .filter(span -> !span.after(span))
                .map(Span::itself);
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
        if (tokens.is("empty")) {
            return new Empty();
        }
        if (tokens.is("filled")) {
            return new Not(new Empty());
        }
        return switch (column.type()) {
            case TEXT, LONGTEXT, LINK -> TextCriteria.text(tokens.text());
            case CHOICE -> TextCriteria.choice(column, tokens.text());
            case YESNO -> yesNo(tokens.text());
            case PICTURE -> throw new Unreadable("Type empty or filled.");
            case WHOLE, DECIMAL, DATE, TIME, DATETIME -> ordered.read(column, tokens);
        };
    }

    private Criterion yesNo(String typed) {
        var text = Starred.of(typed).bare();
        if (text.isBlank()) {
            throw TextCriteria.nothingQuoted();
        }
        return switch (values.read(Kind.of(ColumnType.YESNO), text)) {
            case Reading.Read(var value, var _) -> new Is(value);
            case Reading.Refused _ -> throw new Unreadable("Type y, n, empty or filled.");
        };
    }
}
