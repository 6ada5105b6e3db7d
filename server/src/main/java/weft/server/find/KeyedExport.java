package weft.server.find;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import weft.core.record.StoredRow;
import weft.core.twice.Standing;
import weft.core.value.Value;
import weft.core.value.Wire;

/** Writes with each record how far it has come with its keyings, which is asked for many at once. */
final class KeyedExport implements Export {

    private static final int AT_ONCE = 500;

    private final Export export;
    private final Function<List<StoredRow>, Map<Long, Standing>> standing;
    private final List<StoredRow> waiting = new ArrayList<>();

    KeyedExport(Export export, Function<List<StoredRow>, Map<Long, Standing>> standing) {
        this.export = export;
        this.standing = standing;
    }

    @Override
    public void write(StoredRow record) {
        waiting.add(record);
        if (waiting.size() == AT_ONCE) {
            flush();
        }
    }

    private void flush() {
        var all = standing.apply(waiting);
        for (var record : waiting) {
            var values = new LinkedHashMap<>(record.values());
            values.put(Standing.COLUMN.name(), new Value.Text(Wire.word(all.getOrDefault(record.id(), Standing.ONCE))));
            export.write(new StoredRow(record.id(), record.row(), record.version(), values));
        }
        waiting.clear();
    }

    @Override
    public void close() throws IOException {
        flush();
        export.close();
    }
}
