package weft.server.work;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a page counted while an entry was keyed: times and how often, never what was keyed.
 *
 * @param seconds from its first key to its save, without pauses
 * @param keys how many keys were pressed
 * @param least the fewest that would have done
 * @param hindered whether it was stopped or asked before it was saved
 * @param fields by column
 * @param rules by the id of a check
 */
public record WorkTaken(
        @Nullable Double seconds,
        @Nullable Long keys,
        @Nullable Long least,
        @Nullable Boolean hindered,
        @Nullable Map<String, FieldTaken> fields,
        @Nullable Map<String, RuleTaken> rules) {

    /**
     * What was counted of a field.
     *
     * @param stops how often a save was stopped there
     * @param asks how often one was asked there
     * @param despite how often that was answered with save all the same
     * @param again how often it was typed again after a stop
     * @param back how often one went back from it
     */
    public record FieldTaken(
            @Nullable Double seconds,
            @Nullable Long stops,
            @Nullable Long asks,
            @Nullable Long despite,
            @Nullable Long again,
            @Nullable Long back) {}

    /** What was counted of a check. */
    public record RuleTaken(
            @Nullable Long stops,
            @Nullable Long asks,
            @Nullable Long despite) {}
}
