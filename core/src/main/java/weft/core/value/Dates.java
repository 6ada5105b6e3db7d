package weft.core.value;

import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.temporal.TemporalAdjusters;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import weft.core.value.Conventions.DayOrder;

/** Reads dates as people type them: ISO 8601, digits in the form's order, month names, and short cuts from today. */
final class Dates {

    private static final Pattern ISO = Pattern.compile("([0-9]{4})-([0-9]{1,2})-([0-9]{1,2})");
    private static final Pattern COMPACT = Pattern.compile("([0-9]{4})([0-9]{2})([0-9]{2})");
    private static final Pattern YEAR_FIRST = Pattern.compile("([0-9]{4})[/.]([0-9]{1,2})[/.]([0-9]{1,2})");
    private static final Pattern DIGITS =
            Pattern.compile("([0-9]{1,2})\\s*[/. -]\\s*([0-9]{1,2})(?:\\s*[/. -]\\s*([0-9]{4}|[0-9]{2}))?\\.?");
    private static final Pattern DAY_MONTH = Pattern.compile(
            "(?:(\\p{L}{3,9})\\.?,? )?([0-9]{1,2})(?:st|nd|rd|th)?[. -]*(\\p{L}{3,9})\\.?(?:[ ,-]+([0-9]{4}|[0-9]{2}))?");
    private static final Pattern MONTH_DAY =
            Pattern.compile("(\\p{L}{3,9})\\.?[ -]*([0-9]{1,2})(?:st|nd|rd|th)?(?:[ ,-]+([0-9]{4}|[0-9]{2}))?");
    private static final Pattern OFFSET = Pattern.compile("([-+−])\\s*([0-9]{1,4})");

    private final DayOrder order;
    private final Optional<LocalDate> today;

    /** A reader that counts from {@code today}; without it, only dates that name their year, in just that order, are read. */
    Dates(DayOrder order, Optional<LocalDate> today) {
        this.order = order;
        this.today = today;
    }

    /** The date, or empty when it is none. A date without a year is of this year; a weekday is its latest, today included. */
    Optional<LocalDate> read(String text) {
        if (text.length() > ValueReader.LONGEST_VALUE) {
            return Optional.empty();
        }
        var typed = text.toLowerCase(Locale.ROOT).strip();
        try {
            return match(ISO, typed)
                    .or(() -> match(COMPACT, typed))
                    .or(() -> match(YEAR_FIRST, typed))
                    .map(part -> date(part.group(1), part.group(2), part.group(3)))
                    .or(() -> match(DIGITS, typed).flatMap(this::inOrder))
                    .or(() -> match(DAY_MONTH, typed)
                            .flatMap(part -> named(part.group(3), part.group(2), part.group(4))
                                    .filter(date -> on(part.group(1), date))))
                    .or(() ->
                            match(MONTH_DAY, typed).flatMap(part -> named(part.group(1), part.group(2), part.group(3))))
                    .or(() -> today.flatMap(day -> shortCut(typed, day)))
                    .filter(date -> date.getYear() >= 1 && date.getYear() <= 9999);
        } catch (DateTimeException noSuchDay) {
            return Optional.empty();
        }
    }

    private static Optional<LocalDate> shortCut(String typed, LocalDate today) {
        return switch (typed) {
            case "t", "today" -> Optional.of(today);
            case "yesterday" -> Optional.of(today.minusDays(1));
            case "tomorrow" -> Optional.of(today.plusDays(1));
            default ->
                match(OFFSET, typed)
                        .map(part -> today.plusDays(
                                Long.parseLong(part.group(2)) * (part.group(1).equals("+") ? 1 : -1)))
                        .or(() -> startingWith(typed, DayOfWeek.values())
                                .map(day -> today.with(TemporalAdjusters.previousOrSame(day))));
        };
    }

    /** Spellings that this reader takes, for a sentence. */
    String example() {
        var year = today.map(LocalDate::getYear).orElse(2026);
        return switch (order) {
                    case MONTH_FIRST -> "12/24" + (today.isEmpty() ? "/" + year : "") + " or ";
                    case DAY_FIRST -> "24/12" + (today.isEmpty() ? "/" + year : "") + " or ";
                    case YEAR_FIRST -> "";
                }
                + LocalDate.of(year, 12, 24);
    }

    private Optional<LocalDate> inOrder(MatchResult part) {
        int first = Integer.parseInt(part.group(1));
        int second = Integer.parseInt(part.group(2));
        var third = part.group(3);
        if (order == DayOrder.YEAR_FIRST && third != null) {
            return third.length() == 4
                    ? Optional.empty()
                    : year(part.group(1)).map(year -> LocalDate.of(year, second, Integer.parseInt(third)));
        }
        boolean monthFirst = order != DayOrder.DAY_FIRST;
        // Where only one order makes a date, there is nothing to mistake while it is typed, and its reading is shown.
        if (today.isPresent() && (monthFirst ? first > 12 && second <= 12 : second > 12 && first <= 12)) {
            if (monthFirst && third != null && third.length() == 2 && Integer.parseInt(third) <= 31) {
                // 26/08/01 may well begin with its year.
                return Optional.empty();
            }
            monthFirst = !monthFirst;
        }
        int month = monthFirst ? first : second;
        int day = monthFirst ? second : first;
        return year(third).map(year -> LocalDate.of(year, month, day));
    }

    /** Whether the date is on the weekday named before it, if one is. */
    private static boolean on(String weekday, LocalDate date) {
        return weekday == null
                || startingWith(weekday, DayOfWeek.values())
                        .filter(date.getDayOfWeek()::equals)
                        .isPresent();
    }

    private Optional<LocalDate> named(String monthName, String day, String year) {
        return startingWith(monthName, Month.values())
                .flatMap(month -> year(year).map(known -> LocalDate.of(known, month, Integer.parseInt(day))));
    }

    private Optional<Integer> year(String digits) {
        if (digits == null) {
            return today.map(LocalDate::getYear);
        }
        int year = Integer.parseInt(digits);
        if (digits.length() == 4) {
            return Optional.of(year);
        }
        // Two digits mean the year within 80 back and 19 ahead.
        int now = today.map(LocalDate::getYear).orElse(2026);
        int inCentury = now / 100 * 100 + year;
        return Optional.of(
                inCentury > now + 19 ? inCentury - 100 : inCentury <= now - 81 ? inCentury + 100 : inCentury);
    }

    private static <E extends Enum<E>> Optional<E> startingWith(String typed, E[] names) {
        for (var name : names) {
            if (typed.length() >= 3 && name.name().toLowerCase(Locale.ROOT).startsWith(typed)) {
                return Optional.of(name);
            }
        }
        return Optional.empty();
    }

    private static LocalDate date(String year, String month, String day) {
        return LocalDate.of(Integer.parseInt(year), Integer.parseInt(month), Integer.parseInt(day));
    }

    private static Optional<MatchResult> match(Pattern pattern, String text) {
        var matcher = pattern.matcher(text);
        return matcher.matches() ? Optional.of(matcher.toMatchResult()) : Optional.empty();
    }
}
