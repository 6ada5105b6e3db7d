package weft.server.work;

import java.util.List;
import java.util.OptionalDouble;
import org.jspecify.annotations.Nullable;
import weft.core.work.Share;
import weft.core.work.Suggestions;

/**
 * How keying on a form went in some days.
 *
 * @param everybody whether whoever asks may see everybody's figures, and not only their own
 * @param person whose they are; none for everybody's
 * @param people those whose figures can be asked for
 * @param kept for how many days they are kept; 0 for not at all
 * @param days by day, those without an entry too
 * @param hours by hour of the day, 24 of them
 */
record WorkJson(
        String from,
        String to,
        boolean everybody,
        @Nullable String person,
        List<Keyer> people,
        int kept,
        Whole whole,
        List<OfDay> days,
        List<OfHour> hours,
        List<OfField> fields,
        List<OfRule> rules,
        List<OfKeyer> persons,
        List<Suggested> suggestions) {

    /** Somebody who keyed. */
    record Keyer(String name, String title) {}

    /**
     * How many of how many, with the 95 % interval of that share.
     *
     * @param low its lower end, 0 to 1
     * @param high its upper end
     */
    record ShareJson(long times, long of, double low, double high) {
        static ShareJson of(Share share) {
            return new ShareJson(share.times(), share.of(), share.low(), share.high());
        }
    }

    /**
     * All entries together.
     *
     * @param measured how many were measured while they were keyed, one at a time in the form; of those the following is told
     * @param median what half of them took at most, in seconds; none where none was measured
     * @param slowest what nine of ten took at most
     * @param hindered how many were stopped or asked before they were saved
     * @param keys how many keys were pressed
     * @param least the fewest that would have done
     */
    record Whole(
            long entries,
            long twice,
            int people,
            long measured,
            @Nullable Double median,
            @Nullable Double slowest,
            ShareJson hindered,
            ShareJson differed,
            ShareJson corrected,
            long keys,
            long least) {}

    record OfDay(String day, long once, long twice) {}

    record OfHour(int hour, long once, long twice) {}

    /** A field, in tab order. */
    record OfField(
            String column,
            String label,
            @Nullable Double median,
            @Nullable Double slowest,
            long stops,
            long asks,
            long despite,
            long again,
            long back,
            ShareJson corrected,
            ShareJson differed) {}

    /**
     * A check.
     *
     * @param words what it says, in a few words
     */
    record OfRule(String id, String words, long stops, long asks, long despite) {}

    /**
     * Somebody who keyed.
     *
     * @param anHour how many they key in an hour of keying; none where no time was measured
     */
    record OfKeyer(
            String name,
            String title,
            long entries,
            long twice,
            @Nullable Double anHour,
            long stops,
            long asks,
            ShareJson differed) {}

    /**
     * Something to look at.
     *
     * @param kind what kind of thing
     * @param about the column, or the id of the rule
     */
    record Suggested(Suggestions.Habit kind, String about, String sentence) {}

    static @Nullable Double of(OptionalDouble seconds) {
        return seconds.isPresent() ? Math.round(seconds.getAsDouble() * 10) / 10.0 : null;
    }
}
