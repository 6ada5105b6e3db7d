package weft.core.value;

import java.text.Normalizer;

/**
 * Text as it is kept, so that what looks alike is alike: in Unicode's composed form (NFC, Unicode Standard Annex 15), every
 * kind of blank a plain one, without marks that have no width, and without blanks around it.
 */
public final class NormalText {

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
        var nfc = Normalizer.normalize(typed, Normalizer.Form.NFC);
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

    private static boolean unseen(char c) {
        return Character.isWhitespace(c) || Character.getType(c) == Character.FORMAT;
    }
}
