package weft.core.twice;

import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import weft.core.table.Column;
import weft.core.value.Value;

/** Whether two keyings of a paper say the same, by the values that would be stored. */
public final class Comparison {

    private Comparison() {}

    /** The columns in which they differ, in the order of those. */
    public static List<String> differing(
            List<Column> columns, Map<String, Value> first, Map<String, Value> second, Twice.Texts texts) {
        return columns.stream()
                .map(Column::name)
                .filter(name ->
                        !same(first.getOrDefault(name, Value.EMPTY), second.getOrDefault(name, Value.EMPTY), texts))
                .toList();
    }

    /** Whether both values are the same: numbers by what they come to, links by their record, texts as it is said. */
    public static boolean same(Value one, Value other, Twice.Texts texts) {
        if (one instanceof Value.Text(var first) && other instanceof Value.Text(var second)) {
            return reduced(first, texts).equals(reduced(second, texts));
        }
        var first = number(one);
        var second = number(other);
        return (first != null && second != null) ? first.compareTo(second) == 0 : one.equals(other);
    }

    private static @Nullable BigDecimal number(Value value) {
        return switch (value) {
            case Value.Whole(var whole) -> BigDecimal.valueOf(whole);
            case Value.Decimal(var decimal) -> decimal;
            default -> null;
        };
    }

    private static String reduced(String text, Twice.Texts texts) {
        var spaced = texts.blanks() ? text : text.strip().replaceAll("\\s+", " ");
        return texts.capitals() ? spaced : spaced.toUpperCase(Locale.ROOT).toLowerCase(Locale.ROOT);
    }
}
