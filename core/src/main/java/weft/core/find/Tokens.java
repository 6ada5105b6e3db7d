package weft.core.find;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import weft.core.value.ValueReader;

/**
 * A criterion cut at its blanks. What stands in quotes is never cut and never a word of the language. Quotes begin where a
 * word does, behind a star or behind a sign, and end before a blank, a star or the end; one within them is written twice.
 * Any other quotation mark is itself, as in {@code 5" pipe}. Quotes left open end with the text.
 */
record Tokens(List<Token> all) {

    private static final String OPENS_BEHIND = "*=<>≤≥";

    /**
     * A word, or what stands together.
     *
     * @param text as it was written, its quotes well formed
     * @param kept whether it is taken as it is, and so is no word of the language
     */
    record Token(String text, boolean kept) {
        private boolean is(String word) {
            return !kept && text.equalsIgnoreCase(word);
        }
    }

    static Tokens of(String text) {
        var all = new ArrayList<Token>();
        var token = new StringBuilder();
        boolean quoted = false;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (c == '"' && quoted) {
                boolean twice = at + 1 < text.length() && text.charAt(at + 1) == '"';
                quoted = twice || !ends(text, at + 1);
                token.append(quoted ? "\"\"" : "\"");
                at += twice ? 1 : 0;
            } else if (c == '"') {
                quoted = token.isEmpty() || OPENS_BEHIND.indexOf(token.charAt(token.length() - 1)) >= 0;
                token.append(c);
            } else if (!quoted && Character.isWhitespace(c)) {
                add(token, all);
            } else {
                token.append(c);
            }
        }
        if (quoted) {
            token.append('"');
        }
        add(token, all);
        return new Tokens(List.copyOf(all));
    }

    private static boolean ends(String text, int at) {
        return at == text.length() || Character.isWhitespace(text.charAt(at)) || text.charAt(at) == '*';
    }

    private static void add(StringBuilder token, List<Token> all) {
        if (!token.isEmpty()) {
            all.add(new Token(token.toString(), token.indexOf("\"") >= 0));
            token.setLength(0);
        }
    }

    /** The same with the words of a list kept together: the longest of its choices wins over the language. */
    Tokens keeping(List<String> choices) {
        var folded = choices.stream().map(Tokens::folded).collect(Collectors.toSet());
        int longest = choices.stream()
                .mapToInt(choice -> choice.strip().split("\\s+").length)
                .max()
                .orElse(0);
        var kept = new ArrayList<>(all);
        for (int length = Math.min(longest, kept.size()); length > 0; length--) {
            for (int at = 0; at + length <= kept.size(); at++) {
                var part = kept.subList(at, at + length);
                var text = new Tokens(part).text();
                if (part.stream().noneMatch(Token::kept) && folded.contains(folded(text))) {
                    part.clear();
                    kept.add(at, new Token(text, true));
                }
            }
        }
        return new Tokens(List.copyOf(kept));
    }

    private static String folded(String text) {
        return ValueReader.fold(text.strip().replaceAll("\\s+", " "));
    }

    private Tokens part(int from, int to) {
        return new Tokens(all.subList(from, to));
    }

    /** The parts between the tokens that are that word; a part may be without tokens. */
    List<Tokens> around(String word) {
        var parts = new ArrayList<Tokens>();
        int from = 0;
        for (int at = 0; at < all.size(); at++) {
            if (all.get(at).is(word)) {
                parts.add(part(from, at));
                from = at + 1;
            }
        }
        parts.add(part(from, all.size()));
        return parts;
    }

    boolean isEmpty() {
        return all.isEmpty();
    }

    /** Whether it is that word alone. */
    boolean is(String word) {
        return all.size() == 1 && all.getFirst().is(word);
    }

    /** Whether it begins with those words. */
    boolean begins(String... words) {
        return all.size() >= words.length
                && IntStream.range(0, words.length).allMatch(at -> all.get(at).is(words[at].toLowerCase(Locale.ROOT)));
    }

    Tokens without(int first) {
        return part(first, all.size());
    }

    String text() {
        return all.stream().map(Token::text).collect(Collectors.joining(" "));
    }
}
