package weft.core.sentence;

import java.util.List;

/** A sentence that can't be read, with where and what would be right. */
public final class Unclear extends RuntimeException {

    private static final int MOST = 12;

    private final int at;
    private final String sentence;
    private final List<String> right;

    Unclear(int at, String sentence, List<String> right) {
        super(sentence, null, false, false);
        this.at = at;
        this.sentence = sentence;
        this.right = List.copyOf(right);
    }

    /** The place in what was typed, counted in characters from 0. */
    public int at() {
        return at;
    }

    /** What is wrong, and what would be right. */
    public String sentence() {
        return sentence;
    }

    /** What would be right there. */
    List<String> right() {
        return right;
    }

    static String wouldBe(List<String> right) {
        var words = right.stream()
                .limit(MOST)
                .map(each -> each.startsWith("<") ? each.substring(1, each.length() - 1) : "“" + each + "”")
                .toList();
        return "There could stand " + String.join(", ", words.subList(0, words.size() - 1))
                + (words.size() > 1 ? " or " : "") + words.getLast() + ".";
    }
}
