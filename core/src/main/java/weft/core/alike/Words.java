package weft.core.alike;

import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.apache.commons.codec.language.DoubleMetaphone;
import weft.core.value.ValueReader;

/**
 * A text as it is compared: its words without case and accents, blanks and signs. The database keeps the same of stored texts, in
 * {@code weft.near_marks}; letters are code points in both.
 */
public record Words(List<String> words) {

    /** What stands between words: blanks, the signs of ASCII, and quotes and dashes as they are typeset. */
    private static final Pattern BETWEEN = Pattern.compile("[\\u0000-\\u002f:-@\\[-`{-\\u00bf\\u2000-\\u206f\\u3000]+");

    /** Of what is longer than twice that only so much at either end is kept: indexes hold no long texts. */
    private static final int END = 60;

    private static final Comparator<String> AS_THE_DATABASE_SORTS = (one, other) ->
            Arrays.compare(one.codePoints().toArray(), other.codePoints().toArray());

    public Words {
        words = List.copyOf(words);
    }

    /** The words of a text. */
    public static Words of(String text) {
        // A sigma at the end of a word is one all the same.
        return new Words(BETWEEN.splitAsStream(ValueReader.fold(text).replace('\u03c2', '\u03c3'))
                .filter(word -> !word.isEmpty())
                .toList());
    }

    /**
     * What it has in common with texts that may be near: the first half or the second one, each with the length of the whole, or the
     * words in their order. What is one letter apart has one half in common, as the letter is in the other.
     */
    public Set<String> own() {
        var letters = letters();
        var marks = halves(letters, letters.length);
        marks.add(order());
        return marks;
    }

    /** What those have that are one letter longer, shorter, or other, or in whose middle two letters are turned. */
    public Set<String> around() {
        var letters = letters();
        var marks = new HashSet<String>();
        for (int length = letters.length - 1; length <= letters.length + 1; length++) {
            marks.addAll(halves(letters, length));
        }
        int half = letters.length / 2;
        if (half > 0) {
            int last = letters[half - 1];
            letters[half - 1] = letters[half];
            letters[half] = last;
            marks.addAll(halves(letters, letters.length));
        }
        marks.add(order());
        return marks;
    }

    private int[] letters() {
        return joined().codePoints().toArray();
    }

    /** Those that a text of that length has which begins, or ends, as these letters do. */
    private static Set<String> halves(int[] letters, int length) {
        int half = length / 2;
        int head = Math.clamp(half, 0, letters.length);
        int tail = Math.clamp(length - half, 0, letters.length);
        return new HashSet<>(List.of(
                length + "<" + ends(Arrays.copyOf(letters, head)),
                length + ">" + ends(Arrays.copyOfRange(letters, letters.length - tail, letters.length))));
    }

    private String order() {
        return "=" + ends(sorted().codePoints().toArray());
    }

    private static String ends(int[] letters) {
        return letters.length <= 2 * END
                ? new String(letters, 0, letters.length)
                : new String(letters, 0, END) + new String(letters, letters.length - END, END);
    }

    /** How they sound, by double metaphone, whatever their order. */
    String sounds() {
        var metaphone = new DoubleMetaphone();
        return String.join(
                " ",
                words.stream()
                        .map(word -> word.chars().anyMatch(Character::isDigit) ? word : metaphone.doubleMetaphone(word))
                        .sorted()
                        .toList());
    }

    /** All in one, as they stand. */
    String joined() {
        return String.join("", words);
    }

    /** All in one, in an order that does not depend on how they stand. */
    String sorted() {
        return String.join("", words.stream().sorted(AS_THE_DATABASE_SORTS).toList());
    }
}
