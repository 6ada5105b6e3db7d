package weft.core.find;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;

/** A criterion cut at its blanks; what stands in quotes is never cut, and quotes left open end with the text. */
record Tokens(List<String> all) {

    static Tokens of(String text) {
        var all = new ArrayList<String>();
        var token = new StringBuilder();
        boolean quoted = false;
        for (char c : text.strip().toCharArray()) {
            if (c == '"') {
                quoted = !quoted;
            }
            if (!quoted && Character.isWhitespace(c)) {
                if (!token.isEmpty()) {
                    all.add(token.toString());
                    token.setLength(0);
                }
            } else {
                token.append(c);
            }
        }
        if (!token.isEmpty()) {
            all.add(quoted ? token.append('"').toString() : token.toString());
        }
        return new Tokens(List.copyOf(all));
    }

    /** The parts between the tokens that are that word; a part may be without tokens. */
    List<Tokens> around(String word) {
        var parts = new ArrayList<Tokens>();
        int from = 0;
        for (int at = 0; at < all.size(); at++) {
            if (all.get(at).equalsIgnoreCase(word)) {
                parts.add(new Tokens(all.subList(from, at)));
                from = at + 1;
            }
        }
        parts.add(new Tokens(all.subList(from, all.size())));
        return parts;
    }

    boolean isEmpty() {
        return all.isEmpty();
    }

    /** Whether it begins with those words. */
    boolean begins(String... words) {
        return all.size() >= words.length
                && IntStream.range(0, words.length)
                        .allMatch(at -> all.get(at).toLowerCase(Locale.ROOT).equals(words[at]));
    }

    Tokens without(int first) {
        return new Tokens(all.subList(first, all.size()));
    }

    String text() {
        return String.join(" ", all);
    }
}
