package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.IntPredicate;
import java.util.function.UnaryOperator;

/**
 * Goes along a sentence. Whatever was looked for and not found is remembered with its place, so that what is not understood
 * is told where the sentence could be followed furthest, with what would be right there, and so that what could follow can be
 * offered.
 */
final class Scan {

    /**
     * Something that was looked for.
     *
     * @param at where
     * @param text what could stand there; a word in angle brackets, as {@code <a formula>}, stands for a kind of thing
     * @param name whether it is a name rather than a word of the grammar
     */
    record Wanted(int at, String text, boolean name) {}

    private final String text;
    private final UnaryOperator<String> formulas;
    private final List<Wanted> wanted = new ArrayList<>();
    private int at;

    /**
     * Along that sentence.
     *
     * @param formulas what is made of a formula that stands in it unquoted
     */
    Scan(String text, UnaryOperator<String> formulas) {
        this.text = text;
        this.formulas = formulas;
    }

    List<Wanted> wanted() {
        return wanted;
    }

    int place() {
        return at;
    }

    void back(int place) {
        at = place;
    }

    /** What is not read yet. */
    String left() {
        return text.substring(at);
    }

    /** The place of what comes after blanks. */
    int skipped() {
        skipBlanks();
        return at;
    }

    /** Whether what was taken last ends so. */
    boolean endsWith(String word) {
        return text.regionMatches(true, at - word.length(), word, 0, word.length());
    }

    /** Whether, after the character at that place and blanks, something in quotes begins. */
    boolean quotesAfter(int place) {
        var after = text.substring(place + 1).stripLeading();
        return after.startsWith("\"") || after.startsWith("“");
    }

    /** Whether nothing but blanks is left. */
    boolean atEnd() {
        skipBlanks();
        return at == text.length();
    }

    private void skipBlanks() {
        while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
            at++;
        }
    }

    static boolean wordEnds(String text, int end) {
        return end <= text.length()
                && (end == text.length() || end == 0 || !ofWord(text.charAt(end)) || !ofWord(text.charAt(end - 1)));
    }

    private static boolean ofWord(char c) {
        return Character.isLetterOrDigit(c) || c == '_';
    }

    private void want(String what, boolean name) {
        wanted.add(new Wanted(at, what, name));
    }

    /** Takes these words if they come next, however they are written and spaced. */
    boolean word(String words) {
        skipBlanks();
        int end = end(words, at);
        if (end >= 0) {
            at = end;
            return true;
        }
        want(words, false);
        return false;
    }

    private int end(String words, int from) {
        int place = from;
        for (var word : words.split(" ")) {
            while (place > from && place < text.length() && Character.isWhitespace(text.charAt(place))) {
                place++;
            }
            if (!text.regionMatches(true, place, word, 0, word.length()) || !wordEnds(text, place + word.length())) {
                return -1;
            }
            place += word.length();
        }
        return place;
    }

    /** Takes a sign if it comes next. */
    boolean sign(String sign) {
        skipBlanks();
        if (text.startsWith(sign, at)) {
            at += sign.length();
            return true;
        }
        want(sign, false);
        return false;
    }

    /** A name: one of these as it is, one of these in quotes, or any at all in backticks. */
    Optional<String> name(Names names, String kind) {
        skipBlanks();
        if (at < text.length() && text.charAt(at) == '`') {
            return enclosed('`', '`');
        }
        int from = at;
        var quoted = quoted();
        if (quoted.isPresent()) {
            var named = quoted.flatMap(names::of);
            at = named.isPresent() ? at : from;
            return named;
        }
        if (from == text.length()) {
            want("<" + kind + ">", false);
        }
        offer(names);
        var found = names.longest(text, at);
        found.ifPresentOrElse(name -> at = name.end(), () -> {
            if (from < text.length()) {
                want("<" + kind + ">", false);
            }
        });
        return found.map(Names.NameAt::name);
    }

    /** Remembers those that what is left of the text begins. */
    private void offer(Names names) {
        var begun = text.substring(at).toLowerCase(Locale.ROOT);
        for (var spelling : names.all()) {
            if (spelling.toLowerCase(Locale.ROOT).startsWith(begun)) {
                want(spelling, true);
            }
        }
    }

    /** A word of letters, digits, hyphens and underscores, or what stands in quotes or backticks. */
    Optional<String> plain(Iterable<String> known, String kind) {
        skipBlanks();
        if (at < text.length() && text.charAt(at) == '`') {
            return enclosed('`', '`');
        }
        var begun = text.substring(at).toLowerCase(Locale.ROOT);
        known.forEach(each -> {
            if (each.toLowerCase(Locale.ROOT).startsWith(begun)) {
                want(each, true);
            }
        });
        int from = at;
        while (at < text.length() && (ofWord(text.charAt(at)) || text.charAt(at) == '-')) {
            at++;
        }
        if (at > from) {
            return Optional.of(text.substring(from, at));
        }
        var quoted = quoted();
        if (quoted.isEmpty()) {
            want("<" + kind + ">", false);
        }
        return quoted;
    }

    /** Whether what comes next stands in quotes. */
    boolean quotesNext() {
        skipBlanks();
        return at < text.length() && (text.charAt(at) == '"' || text.charAt(at) == '“');
    }

    /** What stands in quotes, straight or curled. */
    Optional<String> quoted() {
        skipBlanks();
        if (at == text.length()) {
            return Optional.empty();
        }
        return switch (text.charAt(at)) {
            case '"' -> enclosed('"', '"');
            case '“' -> enclosed('“', '”');
            default -> Optional.empty();
        };
    }

    private Optional<String> enclosed(char open, char close) {
        var words = new StringBuilder();
        for (int i = at + 1; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == close) {
                at = i + 1;
                return Optional.of(words.toString());
            }
            if (c == '\\' && i + 1 < text.length()) {
                i++;
                char escaped = text.charAt(i);
                words.append(
                        switch (escaped) {
                            case 'n' -> "\n";
                            case 'r' -> "\r";
                            case 't' -> "\t";
                            default ->
                                escaped == '\\' || escaped == close || escaped == open ? escaped + "" : "\\" + escaped;
                        });
            } else {
                words.append(c);
            }
        }
        throw new Unclear(at, "What is begun here with %s is never ended with %s.".formatted(open, close), List.of());
    }

    /** A pattern between slashes, in which a slash has a backslash before it. */
    Optional<String> pattern() {
        skipBlanks();
        if (!text.startsWith("/", at)) {
            want("</a pattern/>", false);
            return Optional.empty();
        }
        int close = at + 1;
        while (close < text.length() && text.charAt(close) != '/') {
            close += text.charAt(close) == '\\' ? 2 : 1;
        }
        if (close >= text.length()) {
            throw new Unclear(at, "The pattern that is begun here is never ended with /.", List.of());
        }
        var pattern = text.substring(at + 1, close).replace("\\/", "/");
        at = close + 1;
        return Optional.of(pattern);
    }

    /** A number without sign or decimals. */
    OptionalInt whole() {
        skipBlanks();
        int from = at;
        while (at < text.length() && at - from < 9 && Character.digit(text.charAt(at), 10) >= 0) {
            at++;
        }
        if (at > from && wordEnds(text, at)) {
            return OptionalInt.of(Integer.parseInt(text.substring(from, at)));
        }
        at = from;
        want("<a number>", false);
        return OptionalInt.empty();
    }

    /** A value, in quotes or up to a comma, a colon or one of these words. */
    Optional<String> value(String... words) {
        var quoted = quoted();
        if (quoted.isPresent()) {
            return quoted;
        }
        int from = at;
        int end = from;
        while (end < text.length() && !ends(end, words)) {
            end++;
        }
        var value = text.substring(from, end).strip();
        if (value.isEmpty()) {
            want("<a value>", false);
            return Optional.empty();
        }
        at = from + value.length();
        return Optional.of(value);
    }

    private boolean ends(int place, String... words) {
        char c = text.charAt(place);
        boolean last = place + 1 == text.length() || Character.isWhitespace(text.charAt(place + 1));
        if (c == '"' || c == '“' || ((c == ',' || c == ':') && last)) {
            return true;
        }
        if (!Character.isWhitespace(c)) {
            return false;
        }
        for (var word : words) {
            if (end(word, place + 1) >= 0) {
                return true;
            }
        }
        return false;
    }

    /**
     * A formula: in quotes after the word formula, or up to the first place, outside its own brackets and quotes, where what
     * follows the sentence's rest begins.
     *
     * @param ends whether the formula ends before that place
     */
    Optional<String> formula(IntPredicate ends) {
        skipBlanks();
        int begin = at;
        if (end("formula", at) >= 0) {
            at = end("formula", at);
            var quoted = quoted();
            if (quoted.isPresent()) {
                return quoted;
            }
            at = begin;
        }
        int end = outside(begin, ends);
        var formula = text.substring(begin, end).strip();
        if (formula.isEmpty()) {
            want("<a formula>", false);
            return Optional.empty();
        }
        at = begin + formula.length();
        return Optional.of(formulas.apply(formula));
    }

    /** The first place from there on that fulfils this outside brackets, quotes and backticks; the end where none does. */
    private int outside(int from, IntPredicate fulfils) {
        int depth = 0;
        for (int i = from; i < text.length(); i++) {
            char c = text.charAt(i);
            if (depth == 0 && fulfils.test(i)) {
                return i;
            }
            if (c == '"' || c == '`') {
                int close = i + 1;
                while (close < text.length() && text.charAt(close) != c) {
                    close += text.charAt(close) == '\\' ? 2 : 1;
                }
                i = Math.min(close, text.length());
            } else if ("([{".indexOf(c) >= 0) {
                depth++;
            } else if (")]}".indexOf(c) >= 0) {
                depth = Math.max(0, depth - 1);
            }
        }
        return text.length();
    }

    /** Whether these words, or this sign and these words, stand at a place. */
    boolean stands(int place, String words) {
        if (place == text.length()) {
            return false;
        }
        int from = place;
        var rest = words;
        if (!ofWord(words.charAt(0))) {
            if (text.charAt(place) != words.charAt(0)) {
                return false;
            }
            rest = words.substring(1).strip();
            from++;
            while (from < text.length() && Character.isWhitespace(text.charAt(from))) {
                from++;
            }
        } else if (place > 0 && ofWord(text.charAt(place - 1))) {
            return false;
        }
        return rest.isEmpty() || end(rest, from) >= 0;
    }

    /** Whether that can be read from a place on; nothing is taken, and only the names that could stand there are remembered. */
    boolean reads(int place, Runnable reading) {
        int before = at;
        int known = wanted.size();
        try {
            at = place;
            reading.run();
            return true;
        } catch (Unclear unclear) {
            return false;
        } finally {
            at = before;
            wanted.subList(known, wanted.size()).removeIf(each -> !each.name());
        }
    }

    /** The rest of the sentence. */
    Optional<String> rest(String kind) {
        skipBlanks();
        var rest = text.substring(at).strip();
        if (rest.isEmpty()) {
            want("<" + kind + ">", false);
            return Optional.empty();
        }
        at = text.length();
        return Optional.of(rest);
    }

    /**
     * What was found.
     *
     * @throws Unclear when nothing was
     */
    <T> T needed(Optional<T> found) {
        return found.orElseThrow(this::unclear);
    }

    /**
     * Goes on only when that is so.
     *
     * @throws Unclear when it is not
     */
    void need(boolean found) {
        if (!found) {
            throw unclear();
        }
    }

    /**
     * What was read of the whole sentence.
     *
     * @throws Unclear when something is left of it
     */
    <T> T ended(T read) {
        need(atEnd());
        return read;
    }

    /** Whether a name in backticks stands at that place, which is taken as it is. */
    boolean exactly(int place) {
        return text.substring(place).stripLeading().startsWith("`");
    }

    /** Why the sentence can't be read: at the place that it could be followed to, with what would be right there. */
    Unclear unclear() {
        int furthest = Math.max(
                at,
                wanted.stream()
                        .filter(each -> !each.name())
                        .mapToInt(Wanted::at)
                        .max()
                        .orElse(at));
        var right = wanted.stream()
                .filter(each -> each.at() == furthest && !each.name())
                .map(Wanted::text)
                .distinct()
                .toList();
        var found = text.substring(furthest).strip();
        var before = text.substring(0, furthest).strip();
        var where = found.isEmpty()
                ? before.isEmpty() ? "Nothing is said." : "Something is missing after “" + lastOf(before) + "”."
                : "“" + firstOf(found) + "” is not understood.";
        return new Unclear(furthest, right.isEmpty() ? where : where + " " + Unclear.wouldBe(right), right);
    }

    private static String firstOf(String found) {
        var words = found.split("\\s+", 4);
        return words.length < 4 ? found : String.join(" ", words[0], words[1], words[2]) + " …";
    }

    private static String lastOf(String before) {
        int from = Math.max(0, before.length() - 24);
        return (from > 0 ? "…" : "") + before.substring(from);
    }
}
