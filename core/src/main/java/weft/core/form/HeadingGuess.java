package weft.core.form;

import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/** What a heading says of its values by its words, to be proposed to whoever typed it. It is never taken without a word. */
public final class HeadingGuess {

    private HeadingGuess() {}

    /**
     * A proposal.
     *
     * @param say what is said of it after the heading, as {@code date}
     * @param why what tells it, as a word of the heading
     */
    public record Proposal(String say, String why) {}

    private record Telling(Pattern pattern, String say, String tells) {
        Telling(String pattern, String say, String tells) {
            this(Pattern.compile("(?iu)(?<![\\p{L}])(" + pattern + ")(?![\\p{L}])"), say, tells);
        }
    }

    private static final List<Telling> TELLING = List.of(
            new Telling("e-?mail", "email", "e-mail addresses"),
            new Telling("phone|telephone|mobile", "phone", "phone numbers"),
            new Telling("price|cost|costs|amount|fee|charge|sum", "money", "money"),
            new Telling("date|day|birthday|born|on$", "date", "a date"),
            new Telling("time|at$", "time", "a time"),
            new Telling("number of|count|quantity|how many|age|pieces", "whole", "whole numbers"),
            new Telling("weight|height|width|length|depth|temperature|percent|score|rating", "number", "a number"),
            new Telling("remarks|notes|comments|description|details", "long text", "long text"),
            new Telling(
                    "^is|^has|^was|^needs|^wants|paid|done|sent|returned|approved|wet|member",
                    "yes or no",
                    "yes or no"));

    /** What is proposed for a heading of which nothing else is said; empty where its words tell nothing. */
    public static Optional<Proposal> of(String heading) {
        var words = heading.strip();
        if (words.endsWith("?")) {
            return Optional.of(new Proposal("yes or no", "“?” asks for yes or no"));
        }
        for (var telling : TELLING) {
            var found = telling.pattern().matcher(words);
            if (found.find()) {
                return Optional.of(
                        new Proposal(telling.say(), "“%s” tells %s".formatted(found.group(1), telling.tells())));
            }
        }
        return Optional.empty();
    }
}
