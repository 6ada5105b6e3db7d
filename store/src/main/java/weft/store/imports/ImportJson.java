package weft.store.imports;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import weft.core.guess.Guess;
import weft.core.guess.Signs;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.store.json.Json;

/** Guessed columns as they are kept with their file. */
final class ImportJson {

    private ImportJson() {}

    /**
     * A guessed column as it is kept.
     *
     * @param offers files brought in by an earlier Weft have none
     */
    private record ImportDocument(
            String name,
            String title,
            ColumnType type,
            String reason,
            int longest,
            boolean askDayOrder,
            DayOrder assumed,
            DecimalSign decimalSign,
            boolean askDecimalSign,
            int pointScale,
            int commaScale,
            @Nullable List<ImportColumn.Offer> offers,
            @Nullable Integer scale,
            @Nullable DayOrder dayOrder) {

        static ImportDocument of(ImportColumn each) {
            var column = each.column();
            var scale = column.scale();
            return new ImportDocument(
                    column.name(),
                    column.title(),
                    column.type(),
                    each.reason(),
                    column.usualLength().orElse(0),
                    each.askDayOrder(),
                    each.assumed(),
                    each.signs().sign(),
                    each.signs().ask(),
                    each.signs().pointScale(),
                    each.signs().commaScale(),
                    each.offers(),
                    scale.isPresent() ? scale.getAsInt() : null,
                    each.dayOrder().orElse(null));
        }

        ImportColumn column(int from) {
            var guess = new Guess(
                    type,
                    reason,
                    scale == null ? OptionalInt.empty() : OptionalInt.of(scale),
                    longest,
                    Optional.ofNullable(dayOrder),
                    askDayOrder,
                    assumed,
                    new Signs(decimalSign, askDecimalSign, pointScale, commaScale));
            return ImportColumn.guessed(from, name, title, guess).offering(offers == null ? List.of() : offers);
        }
    }

    static String write(List<ImportColumn> columns) {
        return Json.MAPPER.writeValueAsString(
                columns.stream().map(ImportDocument::of).toList());
    }

    static List<ImportColumn> read(String json) {
        var kept = Json.MAPPER.readValue(json, new TypeReference<List<ImportDocument>>() {});
        return IntStream.range(0, kept.size())
                .mapToObj(from -> kept.get(from).column(from))
                .toList();
    }

    static String names(List<String> names) {
        return Json.MAPPER.writeValueAsString(names);
    }

    static List<String> names(String json) {
        return Json.MAPPER.readValue(json, new TypeReference<List<String>>() {});
    }
}
