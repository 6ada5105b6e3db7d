package weft.core.formula;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.camunda.feel.api.EvaluationFailure;
import org.camunda.feel.api.VariableReference;
import org.camunda.feel.syntaxtree.ParsedExpression;

/** A FEEL expression that was read. It is immutable and can be asked by many at once. */
public final class Formula {

    /** The most characters of a formula. */
    public static final int LONGEST = 2_000;

    private static final Pattern WHERE = Pattern.compile(":(\\d+):(\\d+), found \"(.*)\"", Pattern.DOTALL);

    private static final Pattern GIVEN = Pattern.compile("(?:\\b(?:some|every|for)|,)\\s+(\\w+)\\s+in\\b|\\b(item)\\b");

    static {
        // All that answering needs is there before the first is answered: the end of its time must not meet it half
        // made.
        new FormulaContext(Map.of()).functionProvider();
    }

    private final String text;
    private final ParsedExpression parsed;
    private final Set<String> names;
    private final List<List<String>> paths;

    private Formula(String text, ParsedExpression parsed) {
        this.text = text;
        this.parsed = parsed;
        this.names = Set.copyOf(parsed.getVariableNames());
        this.paths = parsed.getVariableReferences().stream()
                .map(VariableReference::getFullQualifiedName)
                .toList();
    }

    /** A text that is no formula, with a sentence that says where and why. */
    public static final class Misread extends RuntimeException {
        private final String sentence;

        Misread(String sentence) {
            super(sentence);
            this.sentence = sentence;
        }

        /** Where and why. */
        public String sentence() {
            return sentence;
        }
    }

    /**
     * Reads a formula.
     *
     * @throws Misread when it is not FEEL, or could run on without end
     */
    public static Formula of(String text) {
        if (text.isBlank()) {
            throw new Misread("The formula is empty.");
        }
        if (text.length() > LONGEST) {
            throw new Misread("The formula has %,d characters; the most is %,d.".formatted(text.length(), LONGEST));
        }
        Bounds.checkNesting(text);
        try {
            var result = Feel.ENGINE.parseExpression(text);
            if (!result.isSuccess()) {
                throw new Misread(misread(result.failure().message()));
            }
            Bounds.check(result.parsedExpression().expression());
            return new Formula(text, result.parsedExpression());
        } catch (StackOverflowError e) {
            throw new Misread("The formula goes too deep. Take it apart into shorter ones.");
        }
    }

    /**
     * The refusal of a formula that names what there is not.
     *
     * @param near what may have been meant
     */
    public static Misread misnamed(String name, String table, List<String> near) {
        return new Misread("The formula names “%s”, but %s has no such column.%s"
                .formatted(name, table, near.isEmpty() ? "" : " Is it " + String.join(" or ", near) + "?"));
    }

    private static String misread(String why) {
        var where = WHERE.matcher(why);
        if (!where.find()) {
            return "This is not a formula.";
        }
        var found = where.group(3).replace("\\\"", "\"");
        return found.isEmpty()
                ? "The formula breaks off: something is missing at its end."
                : "The formula can't be read from character " + where.group(2) + " on: “" + found + "”.";
    }

    /** The formula as it was written. */
    public String text() {
        return text;
    }

    /** The names of all that it asks for. */
    public Set<String> names() {
        return names;
    }

    /** The names that it gives itself to what it goes through, as {@code line} in "some line in counts satisfies …". */
    public Set<String> given() {
        return GIVEN.matcher(text)
                .results()
                .map(found -> found.group(1) == null ? found.group(2) : found.group(1))
                .collect(Collectors.toUnmodifiableSet());
    }

    /** The names of all that it asks for of something with values by name, as {@code site} is of {@code last} in last.site. */
    public Set<String> namesOf(String owner) {
        return paths.stream()
                .filter(path -> path.size() > 1 && path.getFirst().equals(owner))
                .map(path -> path.get(1))
                .collect(Collectors.toUnmodifiableSet());
    }

    /**
     * What it comes to, within {@link Feel#TIME}.
     *
     * @param known what names stand for: values as {@link Feel#known} makes them, and maps of such
     * @throws Budget.Exceeded when the request that asks may take no more time
     */
    public Answer answer(Map<String, Object> known, Moment moment) {
        return moment.within(() -> {
            var answer = evaluated(known);
            return answer instanceof Answer.Fault && !Feel.tooLate() && asksOfNothing(known) ? Answer.NOTHING : answer;
        });
    }

    private Answer evaluated(Map<String, Object> known) {
        try {
            var result = Feel.ENGINE.evaluate(parsed, new FormulaContext(known));
            if (!result.isSuccess()) {
                return new Answer.Fault(Feel.tooLate() ? "The formula takes too long." : "The formula fails.");
            }
            if (result.result() != null) {
                return Feel.answer(result.result());
            }
            return result.getSuppressedFailures().stream()
                    .map(EvaluationFailure::failureMessage)
                    .filter(message -> !message.contains("'null'"))
                    .map(message -> message.replaceFirst("^Failed to invoke function '[^']*': ", ""))
                    .sorted()
                    .findFirst()
                    .<Answer>map(why -> new Answer.Fault(why.replaceFirst("\\.?$", ".")))
                    .orElse(Answer.NOTHING);
        } catch (Feel.TooMuch beyond) {
            return new Answer.Fault(String.valueOf(beyond.getMessage()));
        } catch (RuntimeException | StackOverflowError e) {
            return new Answer.Fault(Feel.tooLate() ? "The formula takes too long." : "The formula fails.");
        }
    }

    /** Whether something that it names is empty. What cannot be worked out for that reason is nothing, and no fault. */
    private boolean asksOfNothing(Map<String, Object> known) {
        return paths.stream().filter(path -> known.containsKey(path.getFirst())).anyMatch(path -> {
            Object at = known;
            for (var name : path) {
                if (!(at instanceof Map<?, ?> values)) {
                    return false;
                }
                at = values.get(name);
                if (at == null) {
                    return true;
                }
            }
            return false;
        });
    }

    @Override
    public String toString() {
        return text;
    }
}
