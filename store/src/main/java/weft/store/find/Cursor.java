package weft.store.find;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.core.table.Faults;

/**
 * A place in an order of records, between two of them or at their ends: it holds what a record is sorted by, so that it
 * still leads on when that record is gone.
 *
 * @param keys what the record is sorted by, level by level; null for empty
 * @param row its row number
 * @param back whether one goes from there towards the beginning
 */
public record Cursor(List<Object> keys, long row, boolean back) {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int LONGEST = 8_000;

    /** The place after that row, among all records by row. */
    public static Cursor afterRow(long row) {
        return new Cursor(List.of(), row, false);
    }

    Cursor backwards() {
        return new Cursor(keys, row, true);
    }

    /** The cursor as it travels, of letters, digits, {@code -} and {@code _}. */
    public String wire() {
        var parts = JSON.createArrayNode();
        parts.add(row).add(back ? 1 : 0);
        keys.forEach(key -> {
            if (key == null) {
                parts.addNull();
            } else {
                parts.add(key.toString());
            }
        });
        return Base64.getUrlEncoder()
                .withoutPadding()
                .encodeToString(parts.toString().getBytes(StandardCharsets.UTF_8));
    }

    /**
     * The cursor of an order by those columns.
     *
     * @throws Faults when it is none
     */
    static Cursor read(String wire, List<Column> columns) {
        try {
            if (wire.length() > LONGEST) {
                throw none();
            }
            var parts = JSON.readTree(new String(Base64.getUrlDecoder().decode(wire), StandardCharsets.UTF_8));
            if (!parts.isArray() || parts.size() != columns.size() + 2) {
                throw none();
            }
            var keys = new ArrayList<>();
            for (int level = 0; level < columns.size(); level++) {
                keys.add(key(columns.get(level), parts.get(level + 2)));
            }
            return new Cursor(keys, parts.get(0).longValue(), parts.get(1).intValue() == 1);
        } catch (IllegalArgumentException | JacksonException | DateTimeException e) {
            throw none();
        }
    }

    private static Faults none() {
        return new Faults("after", "This place in the list belongs to another order. Begin at the first record.");
    }

    private static @Nullable Object key(Column column, JsonNode part) {
        if (part.isNull()) {
            return null;
        }
        var text = part.stringValue();
        return switch (column.type()) {
            case TEXT, LONGTEXT, CHOICE, LINK -> text;
            case WHOLE -> Long.valueOf(text);
            case DECIMAL -> new BigDecimal(text);
            case YESNO -> Boolean.valueOf(text);
            case DATE -> LocalDate.parse(text);
            case TIME -> LocalTime.parse(text);
            case DATETIME -> LocalDateTime.parse(text);
            case PICTURE -> UUID.fromString(text);
        };
    }
}
