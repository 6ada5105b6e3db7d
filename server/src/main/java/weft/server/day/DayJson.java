package weft.server.day;

import java.util.List;
import org.jspecify.annotations.Nullable;
import weft.server.record.TotalJson;

/**
 * What the day brought to somebody.
 *
 * @param since until when they have seen what there was, by the clock of where Weft runs, in whole seconds
 * @param until the moment until which they have seen it, once they say so
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
     * @param came how many records came in
     * @param changed how many were changed, by who changed each last
     * @param removed how many were removed and not put back, by whom; empty where not every record is in view
     * @param removes whether they may see and put back what was removed
     * @param keying how many papers wait to be keyed again
     * @param settling how many wait to be settled
     * @param finds what is kept there to be found, with how many match now
     */
    record DoorsDay(
            String door,
            String title,
            String form,
            TotalJson came,
            List<ByWhom> changed,
            List<ByWhom> removed,
            boolean removes,
            int keying,
            int settling,
            List<KeptToday> finds) {

        boolean tells() {
            return came.count() > 0
                    || !changed.isEmpty()
                    || !removed.isEmpty()
                    || keying > 0
                    || settling > 0
                    || finds.stream().anyMatch(find -> find.there().count() > 0);
        }
    }

    /** How many somebody did. */
    record ByWhom(String name, String title, int times) {}

    /**
     * A kept find.
     *
     * @param where its criteria
     * @param any what is asked of any field, or the empty string
     */
    record KeptToday(String name, List<String> where, String any, TotalJson there) {}
}
