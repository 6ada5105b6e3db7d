package weft.core.entry.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import weft.core.rule.Check.For.Of;
import weft.core.usual.Unusual;
import weft.core.value.Refusal;
import weft.core.value.Value;

/** What is found carries just what is said of it: each part comes into its sentence. */
class CauseTest {

    static Stream<Class<?>> kinds() {
        return Stream.of(Cause.class, Refusal.class).flatMap(type -> Arrays.stream(type.getPermittedSubclasses()));
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void eachPartOfItIsSaid(Class<?> kind) throws ReflectiveOperationException {
        var parts = kind.getRecordComponents();
        var unsaid = new HashSet<String>();
        var said = new HashSet<String>();
        boolean bounds = kind == Cause.OutOfRange.class;
        // Whether what may be left out is there, and what can be so or not so is so.
        for (var there : bounds ? List.of(true) : List.of(true, false)) {
            for (var so : List.of(true, false)) {
                var given = new Object[parts.length];
                for (int i = 0; i < parts.length; i++) {
                    given[i] = sample(parts[i].getGenericType(), mark(i), there, so);
                    if (!mark(i, parts[i].getType()).isEmpty()) {
                        unsaid.add(mark(i));
                    }
                }
                var types = Arrays.stream(parts).map(RecordComponent::getType).toArray(Class<?>[]::new);
                var one = kind.getDeclaredConstructor(types).newInstance(given);
                var words = one instanceof Cause cause ? CauseWords.of(cause) : ((Refusal) one).words();
                assertThat(words).isNotBlank().doesNotContain("null", "Optional", "[", "%");
                unsaid.stream().filter(words::contains).forEach(said::add);
            }
        }
        unsaid.removeAll(said);
        assertThat(unsaid).as("what of %s is not said", kind.getSimpleName()).isEmpty();
    }

    /** A number that stands for the part, so that it is one as well. */
    private static String mark(int part) {
        return Integer.toString(911 + part * 11);
    }

    private static String mark(int part, Class<?> type) {
        return Set.<Class<?>>of(String.class, int.class, long.class, Value.class, List.class, Map.class, Optional.class)
                        .contains(type)
                ? mark(part)
                : "";
    }

    private static Object sample(Type type, String mark, boolean there, boolean so) {
        if (type instanceof ParameterizedType of) {
            var inner = of.getActualTypeArguments();
            if (of.getRawType() == Map.class) {
                return Map.of("site", sample(inner[1], mark, there, so));
            }
            var one = sample(inner[0], mark, there, so);
            return of.getRawType() == List.class ? List.of(one) : there ? Optional.of(one) : Optional.empty();
        }
        var raw = (Class<?>) type;
        if (raw.isEnum()) {
            return raw.getEnumConstants()[so ? 0 : raw.getEnumConstants().length - 1];
        }
        return switch (raw.getSimpleName()) {
            case "String" -> mark;
            case "int", "Integer" -> Integer.parseInt(mark);
            case "long", "Long" -> Long.parseLong(mark);
            case "boolean" -> so;
            case "Value" -> new Value.Text(mark);
            case "Refusal" -> new Refusal.NoAnswer(mark);
            case "Like" -> new Cause.Like(1, 12, "Row 12", List.of(new Value.Text(mark)), "same Name");
            case "Within" -> new Cause.Within("River", Of.VALUE, new Value.Text(mark));
            case "Unusual" -> new Unusual.Word(new Value.Text("Wen"), 400, 1);
            default -> throw new IllegalArgumentException(raw.getName());
        };
    }
}
