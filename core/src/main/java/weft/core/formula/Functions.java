package weft.core.formula;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.camunda.feel.context.JavaFunction;
import org.camunda.feel.context.JavaFunctionProvider;
import org.camunda.feel.syntaxtree.Val;
import org.camunda.feel.syntaxtree.ValBoolean;
import org.camunda.feel.syntaxtree.ValDayTimeDuration;
import org.camunda.feel.syntaxtree.ValError;
import org.camunda.feel.syntaxtree.ValList;
import org.camunda.feel.syntaxtree.ValLocalDateTime;
import org.camunda.feel.syntaxtree.ValNull$;
import org.camunda.feel.syntaxtree.ValNumber;
import org.camunda.feel.syntaxtree.ValString;
import scala.jdk.javaapi.CollectionConverters;

/**
 * Functions that Weft answers itself: those of FEEL with patterns, by a matcher whose time grows with the text and not with
 * the pattern; {@code now()}, which is a local time as columns hold it; and {@code days}, {@code hours} and
 * {@code minutes} of a length of time, with decimals.
 */
final class Functions extends JavaFunctionProvider {

    private static final Map<String, JavaFunction> OWN = Map.of(
            "now",
            new JavaFunction(
                    List.of(),
                    _ -> new ValLocalDateTime(Moment.current().toLocalDateTime().truncatedTo(ChronoUnit.SECONDS))),
            "days",
            length(86_400),
            "hours",
            length(3_600),
            "minutes",
            length(60),
            "matches",
            of(
                    List.of("input", "pattern"),
                    texts -> new ValBoolean(
                            Pattern.of(texts.get(1)).matcher(texts.get(0)).find())),
            "replace",
            of(
                    List.of("input", "pattern", "replacement"),
                    texts -> new ValString(
                            Pattern.of(texts.get(1)).matcher(texts.get(0)).replaceAll(texts.get(2)))),
            "split",
            of(
                    List.of("string", "delimiter"),
                    texts -> list(List.of(Pattern.of(texts.get(1)).split(texts.get(0))))),
            "extract",
            of(List.of("input", "pattern"), texts -> {
                var found = Pattern.of(texts.get(1)).matcher(texts.get(0));
                var all = new ArrayList<String>();
                while (found.find()) {
                    all.add(found.group());
                }
                return list(all);
            }));

    private interface OfTexts {
        Val apply(List<String> texts);
    }

    private static JavaFunction of(List<String> parameters, OfTexts function) {
        return new JavaFunction(parameters, values -> {
            Feel.checkTime();
            if (!values.stream().allMatch(ValString.class::isInstance)) {
                return ValNull$.MODULE$;
            }
            try {
                return function.apply(values.stream()
                        .map(value -> ((ValString) value).value())
                        .toList());
            } catch (Formula.Misread e) {
                return new ValError(e.sentence());
            }
        });
    }

    private static JavaFunction length(int seconds) {
        return new JavaFunction(
                List.of("duration"),
                values -> values.getFirst() instanceof ValDayTimeDuration duration
                        ? new ValNumber(new scala.math.BigDecimal(
                                BigDecimal.valueOf(duration.value().toSeconds())
                                        .divide(BigDecimal.valueOf(seconds), MathContext.DECIMAL128)))
                        : ValNull$.MODULE$);
    }

    private static Val list(List<String> texts) {
        return new ValList(CollectionConverters.asScala(
                        texts.stream().<Val>map(ValString::new).toList())
                .toList());
    }

    @Override
    public Optional<JavaFunction> resolveFunction(String name) {
        Feel.checkTime();
        return Optional.ofNullable(OWN.get(name));
    }

    @Override
    public Collection<String> getFunctionNames() {
        return OWN.keySet();
    }
}
