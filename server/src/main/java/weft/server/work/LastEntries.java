package weft.server.work;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import weft.core.entry.plan.Node;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.core.work.Suggestions;
import weft.store.work.Count.Measure;
import weft.store.work.Figures;

/** What the last entries hold in a field, beside how people went through it. */
final class LastEntries {

    private LastEntries() {}

    static Suggestions.Field of(Node node, String label, List<StoredRow> latest, Figures.All all) {
        var column = node.column();
        var often = new HashMap<Value, Integer>();
        for (var record : latest) {
            var value = record.of(column.name());
            if (!value.isEmpty()) {
                often.merge(value, 1, Integer::sum);
            }
        }
        var usual = often.entrySet().stream().max(Map.Entry.comparingByValue());
        var of = all.of(column.name());
        var start = node.field().start();
        return new Suggestions.Field(
                column.name(),
                label,
                start.carried()
                        || start.linked()
                        || !start.value().isBlank()
                        || node.usual().isPresent(),
                node.always(),
                column.choices().size(),
                latest.size(),
                often.values().stream().mapToLong(Integer::longValue).sum(),
                usual.map(each -> each.getKey().spoken()).orElse(""),
                usual.map(each -> (long) each.getValue()).orElse(0L),
                often.size(),
                all.of("").times(Measure.ENTRY),
                of.times(Measure.RETYPED),
                of.times(Measure.BACK));
    }
}
