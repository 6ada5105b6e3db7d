package weft.core.formula;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** A text in which {@code {formula}} stands for what the formula comes to. */
public final class Template {

    private final List<Part> parts;

    private sealed interface Part {}

    private record Plain(String text) implements Part {}

    private record FormulaPart(Formula formula) implements Part {}

    private Template(List<Part> parts) {
        this.parts = List.copyOf(parts);
    }

    /**
     * Reads a text.
     *
     * @throws Formula.Misread when a formula in it is none, or a brace is not closed
     */
    public static Template of(String text) {
        var parts = new ArrayList<Part>();
        int at = 0;
        for (int open; (open = text.indexOf('{', at)) >= 0; ) {
            int close = text.indexOf('}', open);
            if (close < 0) {
                throw new Formula.Misread("A brace { in the text is not closed by }.");
            }
            parts.add(new Plain(text.substring(at, open)));
            parts.add(new FormulaPart(Formula.of(text.substring(open + 1, close))));
            at = close + 1;
        }
        parts.add(new Plain(text.substring(at)));
        return new Template(parts);
    }

    /** The names that its formulas ask for. */
    public Set<String> names() {
        return parts.stream()
                .filter(FormulaPart.class::isInstance)
                .flatMap(part -> ((FormulaPart) part).formula.names().stream())
                .collect(Collectors.toUnmodifiableSet());
    }

    /** Its formulas, in their order. */
    public List<Formula> formulas() {
        return parts.stream()
                .filter(FormulaPart.class::isInstance)
                .map(part -> ((FormulaPart) part).formula)
                .toList();
    }

    /** The text as it reads now. */
    public String words(Map<String, Object> known, Moment moment) {
        return parts.stream()
                .map(part -> switch (part) {
                    case Plain(var text) -> text;
                    case FormulaPart(var formula) ->
                        formula.answer(known, moment).words();
                })
                .collect(Collectors.joining());
    }
}
