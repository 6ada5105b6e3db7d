package weft.store.record;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/**
 * Values as JSON has them: whole numbers as numbers, decimals as strings so that they stay exact, dates and times as ISO
 * 8601 strings, yes and no as booleans, links as objects of identity, row and words, nothing as null.
 */
public final class ValuesJson {

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_LONG_FOR_INTS)
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

    /** The values that {@link #of(Map)} made members of; those of columns that are there no more are left out. */
    public static Map<String, Value> values(Map<String, Object> members, Table table) {
        var values = new LinkedHashMap<String, Value>();
        table.columns().stream()
                .filter(column -> members.containsKey(column.name()))
                .forEach(column -> values.put(column.name(), value(column, members.get(column.name()))));
        return values;
    }

    private static Value value(Column column, @Nullable Object member) {
        return switch (member) {
            case null -> Value.EMPTY;
            case Boolean yes -> new Value.YesNo(yes);
            case Number number -> new Value.Whole(number.longValue());
            case Map<?, ?> link
            when linked(link).isPresent() ->
                new Value.Link(
                        linked(link).getAsLong(),
                        link.get("row") instanceof Number row ? row.longValue() : 0,
                        String.valueOf(link.get("shown")));
            case String text when column.type().isText() -> new Value.Text(text);
            default ->
                ValueReader.ofStored(Conventions.DEFAULT).read(Kind.of(column.type()), member.toString())
                                instanceof Reading.Read(var value, var _)
                        ? value
                        : Value.EMPTY;
        };
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
