package weft.store.door;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import weft.core.table.Faults;
import weft.core.twice.Twice;

/**
 * What of a door document says which papers are keyed a second time, and how. What is left out is as it is most often: all
 * papers, at once, recognised by who keyed them and their place, every field, letter by letter.
 *
 * @param share of a hundred entries so many: above 0, 100 at most
 * @param paper the columns by which a paper is recognised
 * @param leftOut the columns that are not compared
 * @param blanks whether it counts how many blanks stand between words
 * @param capitals whether capital letters are other letters
 * @param of the doors whose entries are keyed again here; none for those of the door itself
 */
public record TwiceJson(
        @Nullable Double share,
        Twice.@Nullable Way way,
        @Nullable List<String> paper,
        @Nullable List<String> leftOut,
        @Nullable Boolean blanks,
        @JsonProperty("case") @Nullable Boolean capitals,
        @Nullable List<String> of) {

    /** How a door has papers keyed twice. */
    public static TwiceJson of(Twice twice) {
        return new TwiceJson(
                twice.share(),
                twice.way(),
                twice.paper(),
                DoorJson.sorted(twice.leftOut()),
                twice.texts().blanks(),
                twice.texts().capitals(),
                DoorJson.sorted(twice.of()));
    }

    Twice read() {
        double wanted = share == null ? 100 : share;
        if (!(wanted > 0 && wanted <= 100)) {
            throw new Faults(
                    "twice.share", "Of a hundred entries more than 0 and up to 100 are keyed again, such as 5.");
        }
        return new Twice(
                wanted,
                way == null ? Twice.Way.AT_ONCE : way,
                DoorJson.list(paper),
                Set.copyOf(DoorJson.list(leftOut)),
                new Twice.Texts(!Boolean.FALSE.equals(blanks), !Boolean.FALSE.equals(capitals)),
                Set.copyOf(DoorJson.list(of)));
    }
}
