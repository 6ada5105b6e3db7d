package weft.core.formula;

import com.google.re2j.PatternSyntaxException;
import java.util.ArrayDeque;
import org.jspecify.annotations.Nullable;

/**
 * A pattern in the syntax of RE2, whose matching takes time in proportion to the text whatever the pattern is. How much it
 * may come to once its repetitions are written out is bounded before it is.
 */
public final class Pattern {

    private static final int LONGEST = 1_000;
    private static final long LARGEST = 10_000;
    private static final java.util.regex.Pattern REPETITION = java.util.regex.Pattern.compile("\\{(\\d+)(,(\\d*))?}");

    private final com.google.re2j.Pattern pattern;

    private Pattern(com.google.re2j.Pattern pattern) {
        this.pattern = pattern;
    }

    /**
     * Reads a pattern.
     *
     * @throws Formula.Misread when it is none, or is too large
     */
    public static Pattern of(String text) {
        if (text.length() > LONGEST || size(text) > LARGEST) {
            throw new Formula.Misread("The pattern repeats too much. Use fewer or smaller repetitions.");
        }
        try {
            return new Pattern(com.google.re2j.Pattern.compile(text));
        } catch (PatternSyntaxException e) {
            throw new Formula.Misread(
                    "The pattern “%s” can't be read: %s.".formatted(e.getPattern(), e.getDescription()));
        }
    }

    /** Whether the whole text matches. */
    public boolean matches(String text) {
        return pattern.matches(text);
    }

    /** For finding and replacing. */
    com.google.re2j.Matcher matcher(String text) {
        return pattern.matcher(text);
    }

    /** The text taken apart where it matches. */
    String[] split(String text) {
        return pattern.split(text);
    }

    /** How many steps its program has at most: what a repetition repeats counts as often as it may be there. */
    private static long size(String text) {
        var outer = new ArrayDeque<Long>();
        long group = 0;
        long last = 0;
        var repetition = REPETITION.matcher(text);
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (c == '{' && repetition.find(at) && repetition.start() == at) {
                long most = Math.max(times(repetition.group(1)), times(repetition.group(3)));
                group = Math.min(group + last * most, LARGEST + 1);
                last = Math.min(last * (most + 1), LARGEST + 1);
                at = repetition.end() - 1;
                continue;
            }
            if (c == ')') {
                last = group + 2;
                group = outer.isEmpty() ? last : outer.pop() + last;
                continue;
            }
            if (c == '(') {
                outer.push(group);
                group = 0;
            } else if (c == '\\') {
                at++;
            } else if (c == '[') {
                at = classEnd(text, at);
            }
            last = 1;
            group++;
        }
        while (!outer.isEmpty()) {
            group += outer.pop();
        }
        return group;
    }

    private static long times(@Nullable String digits) {
        return digits == null || digits.isEmpty() ? 1 : digits.length() > 4 ? LARGEST : Long.parseLong(digits);
    }

    /** Where a class of characters ends; a bracket just behind its beginning is one of them. */
    private static int classEnd(String text, int start) {
        int at = start + (text.startsWith("^", start + 1) ? 2 : 1);
        for (at++; at < text.length() && text.charAt(at) != ']'; at++) {
            if (text.charAt(at) == '\\') {
                at++;
            }
        }
        return at;
    }
}
