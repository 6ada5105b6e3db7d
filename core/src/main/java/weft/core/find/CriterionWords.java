package weft.core.find;

import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.find.Criterion.All;
import weft.core.find.Criterion.Any;
import weft.core.find.Criterion.Bound;
import weft.core.find.Criterion.Empty;
import weft.core.find.Criterion.Is;
import weft.core.find.Criterion.Like;
import weft.core.find.Criterion.Not;
import weft.core.find.Criterion.Within;
import weft.core.value.Value;

/** Says criteria back to the person who typed them. */
final class CriterionWords {

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH);
    private static final DateTimeFormatter DAY_YEAR = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);

    private CriterionWords() {}

    static String of(Criterion criterion) {
        return switch (criterion) {
            case Is(var value) -> "is " + said(value);
            case Within within -> within(within);
            case Like like -> like(like);
            case Empty() -> "is empty";
            case Not(var inner) -> not(inner);
            case Any any -> any(any);
            case All(var criteria) -> criteria.stream().map(CriterionWords::of).collect(Collectors.joining(" and "));
        };
    }

    private static String said(Value value) {
        return value instanceof Value.Text(var text) ? "“" + text + "”" : value.spoken();
    }

    /** Plain values stand together: "is 1 or 2, or above 7". */
    private static String any(Any any) {
        var values = new ArrayList<String>();
        var others = new ArrayList<String>();
        flat(any).forEach(each -> {
            if (each instanceof Is(var value)) {
                values.add(said(value));
            } else {
                others.add(of(each));
            }
        });
        if (!values.isEmpty()) {
            others.addFirst("is " + String.join(" or ", values));
        }
        return String.join(", or ", others);
    }

    private static Stream<Criterion> flat(Criterion criterion) {
        return criterion instanceof Any(var criteria)
                ? criteria.stream().flatMap(CriterionWords::flat)
                : Stream.of(criterion);
    }

    private static String not(Criterion inner) {
        return switch (inner) {
            case Empty() -> "is filled";
            case Is _ -> of(inner).replaceFirst("^is ", "is not ");
            case Like(var parts, var begins, var ends)
            when parts.size() == 1 && !(begins && ends) ->
                begins
                        ? "does not begin with " + parts.getFirst()
                        : ends
                                ? "does not end with " + parts.getFirst()
                                : "does not have " + parts.getFirst() + " in it";
            case Not(var twice) -> of(twice);
            default -> "not " + of(inner);
        };
    }

    private static String like(Like like) {
        if (like.parts().size() > 1 || (like.begins() && like.ends())) {
            return "reads " + (like.begins() ? "" : "…") + String.join("…", like.parts()) + (like.ends() ? "" : "…");
        }
        var part = like.parts().getFirst();
        return like.begins() ? "begins with " + part : like.ends() ? "ends with " + part : "has " + part + " in it";
    }

    private static String within(Within within) {
        if (within.from().isEmpty()) {
            return below(within.to().orElseThrow());
        }
        var from = within.from().get();
        if (within.to().isEmpty()) {
            return above(from);
        }
        var to = within.to().get();
        if (from.value() instanceof Value.Day(var first) && to.value() instanceof Value.Day(var last)) {
            return days(first, last);
        }
        if (from.value() instanceof Value.Moment(var first)
                && to.value() instanceof Value.Moment(var end)
                && !to.itself()
                && first.toLocalTime().equals(end.toLocalTime())
                && first.toLocalTime().toSecondOfDay() == 0) {
            return days(first.toLocalDate(), end.toLocalDate().minusDays(1));
        }
        return from.itself() && to.itself()
                ? from.value().spoken() + " to " + to.value().spoken()
                : above(from) + " and " + below(to);
    }

    private static String days(LocalDate first, LocalDate last) {
        return first.equals(last)
                ? "is " + new Value.Day(first).spoken()
                : (first.getYear() == last.getYear() ? DAY : DAY_YEAR).format(first) + " to " + DAY_YEAR.format(last);
    }

    private static String above(Bound from) {
        var value = from.value().spoken();
        return timely(from.value())
                ? (from.itself() ? "from " + value + " on" : "after " + value)
                : (from.itself() ? "at least " + value : "above " + value);
    }

    private static String below(Bound to) {
        var value = to.value().spoken();
        return timely(to.value())
                ? (to.itself() ? "up to " + value : "before " + value)
                : (to.itself() ? "at most " + value : "below " + value);
    }

    private static boolean timely(Value value) {
        return value instanceof Value.Day || value instanceof Value.Hour || value instanceof Value.Moment;
    }
}
