package weft.store.record;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.UUID;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Value;

/**
 * Values as JSON has them: whole numbers as numbers, decimals as strings so that they stay exact, dates and times as ISO
 * 8601 strings, yes and no as booleans, links as objects of identity, row and words, nothing as null.
 */
public final class ValuesJson {

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_LONG_FOR_INTS)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();

    private static final String LINK_ID = "id";

    private ValuesJson() {}

    /** A member per column, in the same order. */
    public static Map<String, Object> of(Map<String, Value> values) {
        var members = new LinkedHashMap<String, Object>();
        values.forEach((column, value) -> members.put(column, of(value)));
        return Collections.unmodifiableMap(members);
    }

    /** One value; null for nothing. */
    public static @Nullable Object of(Value value) {
        return switch (value) {
            case Value.Empty() -> null;
            case Value.Whole(var number) -> number;
            case Value.YesNo(var yes) -> yes;
            case Value.Link(long id, long row, var shown) -> link(id, row, shown);
            case Value.Image _, Value.Text _, Value.Decimal _, Value.Day _, Value.Hour _, Value.Moment _ ->
                value.plain();
        };
    }

    private static Map<String, Object> link(long id, long row, String shown) {
        var members = new LinkedHashMap<String, Object>();
        members.put(LINK_ID, id);
        members.put("row", row);
        members.put("shown", shown);
        return members;
    }

    /** The identity of the record that a member of {@link #of} links to; empty when it is no link. */
    static OptionalLong linked(@Nullable Object member) {
        return member instanceof Map<?, ?> link && link.get(LINK_ID) instanceof Number id
                ? OptionalLong.of(id.longValue())
                : OptionalLong.empty();
    }

    /**
     * The values that {@link #of(Map)} made members of; those of columns that are there no more are left out.
     *
     * @throws Inexact when a column cannot hold just that any more
     */
    public static Map<String, Value> values(Map<String, Object> members, Table table) {
        var values = new LinkedHashMap<String, Value>();
        table.columns().stream()
                .filter(column -> members.containsKey(column.name()))
                .forEach(column -> values.put(column.name(), value(column, members.get(column.name()))));
        return values;
    }

    /** The same without those that their columns cannot hold any more, where what is there already is only told again. */
    public static Map<String, Value> held(Map<String, Object> members, Table table) {
        var values = new LinkedHashMap<String, Value>();
        table.columns().stream()
                .filter(column -> members.containsKey(column.name()))
                .forEach(column -> exactly(column, members.get(column.name()))
                        .ifPresent(value -> values.put(column.name(), value)));
        return values;
    }

    private static Value value(Column column, @Nullable Object member) {
        return exactly(column, member).orElseThrow(() -> new Inexact(column.title(), String.valueOf(member)));
    }

    private static Optional<Value> exactly(Column column, @Nullable Object member) {
        try {
            return Optional.of(exact(column, member));
        } catch (DateTimeParseException | IllegalArgumentException | ArithmeticException other) {
            return Optional.empty();
        }
    }

    /** Of history nothing is read as people type: a value is what it was, or it is none. */
    private static Value exact(Column column, @Nullable Object member) {
        if (member == null) {
            return Value.EMPTY;
        }
        var text = member.toString();
        return switch (column.type()) {
            case TEXT, LONGTEXT, CHOICE -> new Value.Text(member instanceof Map<?, ?> ? none() : text);
            case WHOLE -> new Value.Whole(new BigDecimal(text).longValueExact());
            case DECIMAL -> decimal(column, new BigDecimal(text));
            case YESNO -> new Value.YesNo(member instanceof Boolean yes ? yes : none());
            case DATE -> new Value.Day(LocalDate.parse(text));
            case TIME -> new Value.Hour(LocalTime.parse(text));
            case DATETIME -> new Value.Moment(LocalDateTime.parse(text));
            case PICTURE -> new Value.Image(UUID.fromString(text));
            case LINK ->
                member instanceof Map<?, ?> link
                        ? new Value.Link(
                                linked(link).orElseThrow(IllegalArgumentException::new),
                                link.get("row") instanceof Number row ? row.longValue() : 0,
                                String.valueOf(link.get("shown")))
                        : none();
        };
    }

    private static Value decimal(Column column, BigDecimal number) {
        return new Value.Decimal(
                column.scale().isPresent() ? number.setScale(column.scale().getAsInt()) : number);
    }

    private static <T> T none() {
        throw new IllegalArgumentException("of another type");
    }

    /** A column cannot hold any more what it held once. Nothing was written. */
    public static final class Inexact extends RuntimeException {
        private final String column;
        private final String text;

        Inexact(String column, String text) {
            super("inexact");
            this.column = column;
            this.text = text;
        }

        /** What it was, and of which column, in a sentence. */
        public String sentence() {
            return "“%s” was %s then, which it cannot hold any more. Nothing was put back."
                    .formatted(column, text.length() > 60 ? text.substring(0, 59) + "…" : text);
        }
    }

    /** Values as JSON. */
    public static String write(Map<String, Value> values) {
        return JSON.writeValueAsString(of(values));
    }

    /** What {@link #write} wrote, as it is kept. */
    public static Map<String, Object> members(String json) {
        return JSON.readValue(json, new TypeReference<Map<String, Object>>() {});
    }

    /** What {@link #write} wrote, under the names that the columns have now and in their order, which PostgreSQL does not keep. */
    public static Map<String, Object> read(String json, Table table) {
        var kept = members(json);
        var ordered = new LinkedHashMap<String, Object>();
        table.columns()
                .forEach(column -> Stream.concat(Stream.of(column.name()), column.former().stream())
                        .filter(kept::containsKey)
                        .findFirst()
                        .ifPresent(name -> ordered.put(column.name(), kept.get(name))));
        return Collections.unmodifiableMap(ordered);
    }
}
