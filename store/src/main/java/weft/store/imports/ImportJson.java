package weft.store.imports;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.core.guess.Guess;
import weft.core.guess.Signs;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/** Guessed columns as they are kept with their file. */
final class ImportJson {

    private static final JsonMapper JSON = JsonMapper.shared();

    private ImportJson() {}

    static String write(List<ImportColumn> columns) {
        var array = JSON.createArrayNode();
        for (var each : columns) {
            var column = each.column();
            var object = array.addObject()
                    .put("name", column.name())
                    .put("title", column.title())
                    .put("type", column.type().wire())
                    .put("reason", each.reason())
                    .put("longest", column.usualLength().orElse(0))
                    .put("askDayOrder", each.askDayOrder())
                    .put("assumed", each.assumed().name())
                    .put("decimalSign", each.signs().sign().name())
                    .put("askDecimalSign", each.signs().ask())
                    .put("pointScale", each.signs().pointScale())
                    .put("commaScale", each.signs().commaScale());
            var offers = object.putArray("offers");
            each.offers()
                    .forEach(offer -> offers.addObject()
                            .put("table", offer.table())
                            .put("title", offer.title())
                            .put("column", offer.column()));
            column.scale().ifPresent(scale -> object.put("scale", scale));
            each.dayOrder().ifPresent(order -> object.put("dayOrder", order.name()));
        }
        return array.toString();
    }

    static String names(List<String> names) {
        return JSON.writeValueAsString(names);
    }

    static List<String> names(String json) {
        return JSON.readValue(json, new TypeReference<List<String>>() {});
    }

    static List<ImportColumn> read(String json) {
        var array = JSON.readTree(json);
        return IntStream.range(0, array.size())
                .mapToObj(from -> column(from, array.get(from)))
                .toList();
    }

    private static ImportColumn column(int from, JsonNode object) {
        var guess = new Guess(
                ColumnType.named(object.get("type").asString()).orElseThrow(),
                object.get("reason").asString(),
                object.has("scale") ? OptionalInt.of(object.get("scale").asInt()) : OptionalInt.empty(),
                object.get("longest").asInt(),
                object.has("dayOrder")
                        ? Optional.of(DayOrder.valueOf(object.get("dayOrder").asString()))
                        : Optional.empty(),
                object.get("askDayOrder").asBoolean(),
                DayOrder.valueOf(object.get("assumed").asString()),
                new Signs(
                        DecimalSign.valueOf(object.get("decimalSign").asString()),
                        object.get("askDecimalSign").asBoolean(),
                        object.get("pointScale").asInt(),
                        object.get("commaScale").asInt()));
        return ImportColumn.guessed(
                        from, object.get("name").asString(), object.get("title").asString(), guess)
                .offering(offers(object));
    }

    /** Files brought in by an earlier Weft have none. */
    private static List<ImportColumn.Offer> offers(JsonNode object) {
        var offers = object.path("offers");
        return IntStream.range(0, offers.size())
                .mapToObj(at -> new ImportColumn.Offer(
                        offers.get(at).get("table").asString(),
                        offers.get(at).get("title").asString(),
                        offers.get(at).get("column").asString()))
                .toList();
    }
}
