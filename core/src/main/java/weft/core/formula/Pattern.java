package weft.core.formula;

import com.google.re2j.PatternSyntaxException;

/** A pattern in the syntax of RE2, whose matching takes time in proportion to the text whatever the pattern is. */
public final class Pattern {

    private final com.google.re2j.Pattern pattern;

    private Pattern(com.google.re2j.Pattern pattern) {
        this.pattern = pattern;
    }

    /**
     * Reads a pattern.
     *
     * @throws Formula.Misread when it is none
     */
    public static Pattern of(String text) {
        try {
            return new Pattern(com.google.re2j.Pattern.compile(text));
        } catch (PatternSyntaxException e) {
            throw new Formula.Misread("The pattern can't be read: %s.".formatted(e.getDescription()));
        }
    }

    /** Whether the whole text matches. */
    public boolean matches(String text) {
        return pattern.matches(text);
    }
}
