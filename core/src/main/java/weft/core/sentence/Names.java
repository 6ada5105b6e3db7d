package weft.core.sentence;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Names that can stand at one place of a sentence, by each of their spellings. The first to have a spelling keeps it. */
final class Names {

    private final Map<String, String> bySpelling = new LinkedHashMap<>();
    private final Map<String, String> spellings = new LinkedHashMap<>();

    Names(List<Terms.Term> terms) {
        for (var term : terms) {
            if (!term.label().isBlank() && bySpelling.putIfAbsent(folded(term.label()), term.name()) == null) {
                spellings.putIfAbsent(term.name(), term.label());
            }
        }
    }

    /** The name found at a place of a text, and where it ends. */
    record NameAt(String name, int end) {}

    /** What is so spelled, or empty. */
    Optional<String> of(String spelling) {
        return Optional.ofNullable(bySpelling.get(folded(spelling)));
    }

    /** How people call it, or empty where it is unknown. */
    Optional<String> spelling(String name) {
        return Optional.ofNullable(spellings.get(name));
    }

    /** Whether a spelling is a name as columns have them. */
    static boolean isShort(String spelling) {
        return weft.core.table.Names.isName(spelling);
    }

    /** How all of them are called. */
    Iterable<String> all() {
        return spellings.values();
    }

    /** The longest that stands at that place and ends there as a word. */
    Optional<NameAt> longest(String text, int at) {
        NameAt longest = null;
        for (var each : bySpelling.entrySet()) {
            int end = at + each.getKey().length();
            if (text.regionMatches(true, at, each.getKey(), 0, each.getKey().length())
                    && (longest == null || end > longest.end())
                    && Scan.wordEnds(text, end)) {
                longest = new NameAt(each.getValue(), end);
            }
        }
        return Optional.ofNullable(longest);
    }

    private static String folded(String spelling) {
        return spelling.toLowerCase(Locale.ROOT);
    }
}
