package weft.server.day;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the day brought to somebody.
 *
 * @param since when they last looked, by the clock of where Weft runs
 * @param until the moment until which it is told
 * @param first whether they never looked before, so that it is of the last day
 * @param mail whether they get it by mail each morning
 * @param address where that goes; none where none is known
 * @param doors by door, those with nothing to tell left out
 */
record DayJson(
        String since,
        String until,
        boolean first,
        boolean mail,
        @Nullable String address,
        List<DoorsDay> doors) {

    /**
     * What there is at a door.
     *
     * @param came how many records came in; ten thousand for so many or more
     * @param changed how many were changed, by whom
     * @param removed how many were removed, by whom; empty where not every record is in view
     * @param keying how many papers wait to be keyed again
     * @param settling how many wait to be settled
     * @param finds what is kept there to be found, with how many match now
     */
    record DoorsDay(
            String door,
            String title,
            String form,
            int came,
            List<ByWhom> changed,
            List<ByWhom> removed,
            int keying,
            int settling,
            List<Found> finds) {

        boolean tells() {
            return came > 0
                    || !changed.isEmpty()
                    || !removed.isEmpty()
                    || keying > 0
                    || settling > 0
                    || finds.stream().anyMatch(find -> find.count() > 0);
        }
    }

    /** How many somebody did. */
    record ByWhom(String name, String title, int times) {}

    /**
     * A kept find.
     *
     * @param where its criteria
     * @param exact whether they were counted; else it is about so many
     */
    record Found(String name, List<String> where, String any, long count, boolean exact) {}
}
