package weft.store.record;

import java.sql.Array;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Function;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.table.StoredTable;

/**
 * Writes new entries. Those for one table that arrive while another is being written wait for it and then go together:
 * they would wait for the counter's row in any case, and so they share one trip and one commit. If one of them is
 * refused, each is tried on its own.
 */
final class Saves {

    private static final int MOST_TOGETHER = 64;

    private final Database database;
    private final Map<StoredTable, Lane> lanes = new ConcurrentHashMap<>();

    Saves(Database database) {
        this.database = database;
    }

    /** An entry to be written, and what came of it. */
    private static final class Entry {
        private final Map<String, Value> values;
        private final Optional<SaveKey> key;
        private final String by;
        private volatile StoredRecord saved;
        private volatile SQLException refused;

        Entry(Map<String, Value> values, Optional<SaveKey> key, String by) {
            this.values = values;
            this.key = key;
            this.by = by;
        }

        boolean done() {
            return saved != null || refused != null;
        }
    }

    /** Those who wait to write to one table. */
    private static final class Lane {
        private final ReentrantLock turn = new ReentrantLock();
        private final Queue<Entry> waiting = new ConcurrentLinkedQueue<>();
        private final String statement;

        Lane(String statement) {
            this.statement = statement;
        }
    }

    /**
     * Writes an entry to the next free row.
     *
     * @throws SQLException as the database refuses it
     */
    StoredRecord save(StoredTable table, Map<String, Value> values, Optional<SaveKey> key, String by)
            throws SQLException {
        var entry = new Entry(values, key, by);
        var lane = lanes.computeIfAbsent(table, each -> new Lane(SaveSql.of(database.sql(), each)));
        lane.waiting.add(entry);
        lane.turn.lock();
        try {
            while (!entry.done()) {
                writeWaiting(table, lane);
            }
        } finally {
            lane.turn.unlock();
        }
        if (entry.refused != null) {
            throw entry.refused;
        }
        return entry.saved;
    }

    private void writeWaiting(StoredTable table, Lane lane) {
        var together = new ArrayList<Entry>();
        for (Entry next; together.size() < MOST_TOGETHER && (next = lane.waiting.poll()) != null; ) {
            together.add(next);
        }
        try {
            write(table, lane.statement, together);
        } catch (SQLException e) {
            if (together.size() == 1) {
                together.getFirst().refused = e;
            } else {
                together.forEach(entry -> writeAlone(table, lane.statement, entry));
            }
        }
    }

    private void writeAlone(StoredTable table, String statement, Entry entry) {
        try {
            write(table, statement, List.of(entry));
        } catch (SQLException e) {
            entry.refused = e;
        }
    }

    /** Writes an entry on a connection whose transaction is the caller's. */
    StoredRecord save(
            Connection connection, StoredTable table, Map<String, Value> values, Optional<SaveKey> key, String by)
            throws SQLException {
        var entry = new Entry(values, key, by);
        write(connection, table, SaveSql.of(database.sql(), table), List.of(entry));
        return entry.saved;
    }

    private void write(StoredTable table, String text, List<Entry> entries) throws SQLException {
        try (var connection = database.source().getConnection()) {
            write(connection, table, text, entries);
        }
    }

    private static void write(Connection connection, StoredTable table, String text, List<Entry> entries)
            throws SQLException {
        try (var statement = connection.prepareStatement(text)) {
            int parameter = 1;
            statement.setInt(parameter++, entries.size());
            statement.setArray(
                    parameter++,
                    texts(
                            connection,
                            entries,
                            entry -> entry.key.map(SaveKey::key).orElse(null)));
            statement.setArray(
                    parameter++,
                    texts(
                            connection,
                            entries,
                            entry -> entry.key
                                    .map(key -> HexFormat.of().formatHex(key.bodyHash()))
                                    .orElse(null)));
            statement.setArray(parameter++, texts(connection, entries, entry -> entry.by));
            statement.setArray(
                    parameter++, texts(connection, entries, entry -> ValuesJson.write(ValuesJson.of(entry.values))));
            for (var column : table.definition().columns()) {
                statement.setArray(
                        parameter++, texts(connection, entries, entry -> plain(entry.values.get(column.name()))));
            }
            try (var kept = statement.executeQuery()) {
                while (kept.next()) {
                    var entry = entries.get(kept.getInt(1));
                    entry.saved = new StoredRecord(kept.getLong(2), kept.getLong(3), 1, ValuesJson.of(entry.values));
                }
            }
        }
    }

    private static Array texts(Connection connection, List<Entry> entries, Function<Entry, String> part)
            throws SQLException {
        return connection.createArrayOf("text", entries.stream().map(part).toArray(String[]::new));
    }

    private static String plain(Value value) {
        return value == null || value.isEmpty() ? null : value.plain();
    }
}
