package weft.core.find;

import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.YearMonth;
import java.time.temporal.TemporalAdjusters;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/** Reads years, months and weeks as people type them: "2026", "2026-05", "May 2026", "last month". Weeks begin on Monday, as in ISO 8601. */
final class Periods {

    private static final Pattern YEAR = Pattern.compile("[12][0-9]{3}");
    private static final Pattern YEAR_MONTH = Pattern.compile("([0-9]{4})[-/.]([0-9]{1,2})");
    private static final Pattern MONTH_YEAR = Pattern.compile("([0-9]{1,2})[-/.]([0-9]{4})");
    private static final Pattern NAMED = Pattern.compile("(\\p{L}{3,9})\\.?(?:[ -]+([0-9]{4}))?");
    private static final Pattern RELATIVE = Pattern.compile("(this|last|next)\\s+(week|month|year)");

    private final LocalDate today;

    Periods(LocalDate today) {
        this.today = today;
    }

    /** From its first day to its last. */
    record Period(LocalDate first, LocalDate last) {
        private static Period of(YearMonth month) {
            return new Period(month.atDay(1), month.atEndOfMonth());
        }

        private static Period ofYear(int year) {
            return new Period(LocalDate.of(year, 1, 1), LocalDate.of(year, 12, 31));
        }
    }

    /** The period, or empty when it is none, as a single day is. */
    Optional<Period> read(String text) {
        var typed = text.strip().toLowerCase(Locale.ROOT);
        try {
            return YEAR.matcher(typed).matches()
                    ? Optional.of(Period.ofYear(Integer.parseInt(typed)))
                    : ofDigits(typed, YEAR_MONTH, 1, 2)
                            .or(() -> ofDigits(typed, MONTH_YEAR, 2, 1))
                            .or(() -> relative(typed))
                            .or(() -> named(typed));
        } catch (DateTimeException noSuchMonth) {
            return Optional.empty();
        }
    }

    private static Optional<Period> ofDigits(String typed, Pattern pattern, int year, int month) {
        var found = pattern.matcher(typed);
        return found.matches()
                ? Optional.of(Period.of(
                        YearMonth.of(Integer.parseInt(found.group(year)), Integer.parseInt(found.group(month)))))
                : Optional.empty();
    }

    private Optional<Period> named(String typed) {
        var found = NAMED.matcher(typed);
        if (!found.matches()) {
            return Optional.empty();
        }
        int year = found.group(2) == null ? today.getYear() : Integer.parseInt(found.group(2));
        return Arrays.stream(Month.values())
                .filter(month -> month.name().toLowerCase(Locale.ROOT).startsWith(found.group(1)))
                .findFirst()
                .map(month -> Period.of(YearMonth.of(year, month)));
    }

    private Optional<Period> relative(String typed) {
        var found = RELATIVE.matcher(typed);
        if (!found.matches()) {
            return Optional.empty();
        }
        int steps = switch (found.group(1)) {
            case "last" -> -1;
            case "next" -> 1;
            default -> 0;
        };
        return Optional.of(
                switch (found.group(2)) {
                    case "week" -> {
                        var monday = today.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY))
                                .plusWeeks(steps);
                        yield new Period(monday, monday.plusDays(6));
                    }
                    case "month" -> Period.of(YearMonth.from(today).plusMonths(steps));
                    default -> Period.ofYear(today.getYear() + steps);
                });
    }
}
