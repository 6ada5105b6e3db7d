package weft.core.value;

import java.text.Normalizer;

/**
 * Text as it is kept, so that what looks alike is alike: in Unicode's composed form (NFC, Unicode Standard Annex 15), every
 * kind of blank a plain one, without marks that have no width, and without blanks around it.
 */
public final class NormalText {

    /** No language has more of them on one letter. */
    private static final int MOST_MARKS = 30;

    /** Joins what stands beside it, without a width of its own (combining grapheme joiner). */
    private static final char JOINER = '\u034F';

    private NormalText() {}

    /** The text as it is kept; empty when nothing in it can be seen. */
    public static String of(String typed) {
        return plain(typed) ? typed.strip() : composed(typed);
    }

    private static boolean plain(String text) {
        for (int at = 0; at < text.length(); at++) {
            if (text.charAt(at) >= 0x80) {
                return false;
            }
        }
        return true;
    }

    private static String composed(String typed) {
        var text = new StringBuilder(typed.length());
        var nfc = Normalizer.normalize(bounded(typed), Normalizer.Form.NFC);
        for (int at = 0; at < nfc.length(); at++) {
            char c = nfc.charAt(at);
            switch (c) {
                case '\u200B', '\u2060', '\uFEFF', '\u180E' -> {}
                case '\u0085', '\u2028', '\u2029' -> text.append('\n');
                default -> text.append(Character.getType(c) == Character.SPACE_SEPARATOR ? ' ' : c);
            }
        }
        int start = 0;
        int end = text.length();
        while (start < end && unseen(text.charAt(start))) {
            start++;
        }
        while (end > start && unseen(text.charAt(end - 1))) {
            end--;
        }
        return text.substring(start, end);
    }

    /** Without very long runs of marks, which would be put in order in a time that grows faster than they do (UAX 15, D4). */
    private static String bounded(String typed) {
        var text = new StringBuilder(typed.length());
        int marks = 0;
        for (int at = 0; at < typed.length(); ) {
            int c = typed.codePointAt(at);
            marks = c != JOINER && isMark(c) ? marks + 1 : 0;
            if (marks > MOST_MARKS) {
                text.append(JOINER);
                marks = 1;
            }
            text.appendCodePoint(c);
            at += Character.charCount(c);
        }
        return text.toString();
    }

    private static boolean isMark(int c) {
        return switch (Character.getType(c)) {
            case Character.NON_SPACING_MARK, Character.COMBINING_SPACING_MARK, Character.ENCLOSING_MARK -> true;
            default -> false;
        };
    }

    private static boolean unseen(char c) {
        return Character.isWhitespace(c) || Character.getType(c) == Character.FORMAT;
    }

    /** Whether there is a character in a text that no record can hold: PostgreSQL keeps neither code 0 nor half of a surrogate pair. */
    public static boolean hasUnstorable(String text) {
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (c == 0 || (Character.isSurrogate(c) && !pairAt(text, at))) {
                return true;
            }
        }
        return false;
    }

    private static boolean pairAt(String text, int at) {
        char c = text.charAt(at);
        return Character.isHighSurrogate(c)
                ? at + 1 < text.length() && Character.isLowSurrogate(text.charAt(at + 1))
                : at > 0 && Character.isHighSurrogate(text.charAt(at - 1));
    }
}
