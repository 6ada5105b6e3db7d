package weft.core.formula;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetTime;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import org.camunda.feel.api.FeelEngineApi;
import org.camunda.feel.api.FeelEngineBuilder;
import org.camunda.feel.syntaxtree.Val;
import org.camunda.feel.syntaxtree.ValNumber;
import org.camunda.feel.valuemapper.JavaCustomValueMapper;
import org.jspecify.annotations.Nullable;
import scala.jdk.javaapi.CollectionConverters;
import weft.core.value.Value;

/** The FEEL engine as Weft uses it: exact numbers, local times, patterns that end, and a limit of time. */
public final class Feel {

    /** How long a formula may take: far more than any of use needs, so that a server short of breath refuses none of them. */
    public static final Duration TIME = Duration.ofSeconds(1);

    static final FeelEngineApi ENGINE = FeelEngineBuilder.forJava()
            .withCustomValueMapper(new ExactNumbers())
            .withClock(Moment::current)
            .build();

    private Feel() {}

    /** The time is over. */
    static final class TooLate extends RuntimeException {
        TooLate() {
            super("too late", null, false, false);
        }
    }

    /** Something grew too large; one sentence says what. */
    static final class TooMuch extends RuntimeException {
        TooMuch(String sentence) {
            super(sentence, null, false, false);
        }
    }

    static boolean tooLate() {
        return Budget.over();
    }

    static void checkTime() {
        if (Budget.over()) {
            throw new TooLate();
        }
    }

    /** Numbers come back exact. It is asked for each value that a formula looks at, and so sees to the time as well. */
    static final class ExactNumbers extends JavaCustomValueMapper {
        @Override
        public Optional<Val> toValue(Object value, Function<Object, Val> inner) {
            checkTime();
            if (value instanceof Val known) {
                Size.beyond(known).ifPresent(sentence -> {
                    throw new TooMuch(sentence);
                });
            }
            return Optional.empty();
        }

        @Override
        public Optional<Object> unpackValue(Val value, Function<Val, Object> inner) {
            return value instanceof ValNumber number
                    ? Optional.of(number.value().bigDecimal())
                    : Optional.empty();
        }
    }

    /** A value as formulas know it; empty is their null. */
    public static @Nullable Object known(Value value) {
        return switch (value) {
            case Value.Empty() -> null;
            case Value.Text(var text) -> text;
            case Value.Whole(var number) -> BigDecimal.valueOf(number);
            case Value.Decimal(var number) -> number;
            case Value.YesNo(var yes) -> yes;
            case Value.Day(var date) -> date;
            case Value.Hour(var time) -> time;
            case Value.Moment(var at) -> at;
            case Value.Image(var id) -> id.toString();
            case Value.Link link -> linked(link, Map::of);
        };
    }

    /**
     * A link as formulas know it.
     *
     * @param record the values of its record by name, asked for when a formula asks for one of them
     */
    public static Object linked(Value.Link link, Supplier<Map<String, Value>> record) {
        return new LinkedRecord(link, record);
    }

    /** Values as formulas know them, by name. */
    public static Map<String, Object> known(Map<String, Value> values) {
        var known = new LinkedHashMap<String, Object>();
        values.forEach((name, value) -> known.put(name, known(value)));
        return known;
    }

    static Answer answer(Object result) {
        return switch (result) {
            case BigDecimal number ->
                Size.beyond(number).<Answer>map(Answer.Fault::new).orElseGet(() -> new Answer.Of(number));
            case String _, Boolean _, LocalDate _, LocalTime _ -> new Answer.Of(result);
            case LocalDateTime at -> new Answer.Of(at.truncatedTo(ChronoUnit.SECONDS));
            case ZonedDateTime at -> new Answer.Of(at.toLocalDateTime().truncatedTo(ChronoUnit.SECONDS));
            case OffsetTime time -> new Answer.Of(time.toLocalTime());
            case scala.collection.Map<?, ?> values
            when link(values).isPresent() -> new Answer.Of(link(values).get());
            default ->
                new Answer.Fault("The formula gives " + kind(result)
                        + ". A field takes text, a number, yes or no, a date or a time.");
        };
    }

    private static Optional<Value.Link> link(scala.collection.Map<?, ?> values) {
        return LinkedRecord.link(CollectionConverters.asJava(values));
    }

    private static String kind(Object result) {
        return switch (result) {
            case java.time.temporal.TemporalAmount _ -> "a length of time";
            case java.util.Map<?, ?> _, scala.collection.Map<?, ?> _ -> "several values by name";
            default -> "a list";
        };
    }
}
