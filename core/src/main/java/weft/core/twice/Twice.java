package weft.core.twice;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.random.RandomGenerator;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Wire;

/**
 * That papers are keyed a second time, by somebody who did not key them first, and how.
 *
 * @param share of a hundred entries so many, each drawn when it is saved: above 0, 100 at most
 * @param paper the columns by which a paper is recognised; none where it is by who keyed it first, on which day, and its place
 *     among those of that day
 * @param leftOut the columns that are not compared
 * @param of the doors whose entries are keyed again here; none for those of the door itself
 */
public record Twice(double share, Way way, List<String> paper, Set<String> leftOut, Texts texts, Set<String> of) {

    public Twice {
        paper = List.copyOf(paper);
        leftOut = Set.copyOf(leftOut);
        of = Set.copyOf(of);
        if (!(share > 0 && share <= 100)) {
            throw new IllegalArgumentException("a share of " + share + " in a hundred");
        }
    }

    /** What becomes of fields in which the keyings differ. */
    public enum Way implements Wire.Spelled {
        /** Both keyings are whole, and a third person settles. */
        BLIND,
        /** A field that differs says so as it is left; keyed again the same, both are shown, and one is chosen. */
        AT_ONCE;

        @Override
        public String spelled() {
            return name().toLowerCase(Locale.ROOT).replace('_', ' ');
        }
    }

    /**
     * What makes texts differ.
     *
     * @param blanks whether it counts how many blanks stand between words
     * @param capitals whether capital letters are other letters
     */
    public record Texts(boolean blanks, boolean capitals) {

        /** Letter by letter. */
        public static final Texts EXACT = new Texts(true, true);
    }

    /** Whether an entry is among those that are keyed again. */
    public boolean draws(RandomGenerator random) {
        return random.nextDouble() * 100 < share;
    }

    /** Whether entries by that door are keyed again here, at this one. */
    public boolean takes(String door, String here) {
        return of.isEmpty() ? door.equals(here) : of.contains(door);
    }

    /** What of the columns that one types into is compared. Pictures are not: no two of one paper are the same. */
    public List<Column> compared(List<Column> keyed) {
        return keyed.stream()
                .filter(column -> column.type() != ColumnType.PICTURE
                        && !paper.contains(column.name())
                        && !leftOut.contains(column.name()))
                .toList();
    }

    /** The same with columns called so. */
    public Twice renamed(UnaryOperator<String> now) {
        var others = new LinkedHashSet<String>();
        leftOut.forEach(column -> others.add(now.apply(column)));
        return new Twice(share, way, paper.stream().map(now).toList(), others, texts, of);
    }
}
