package weft.store.record;

import java.sql.Array;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.TableChanged;
import weft.store.event.Change;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/**
 * Writes new entries. Those for one table that arrive while another is being written wait for it in its lane and then go
 * together: they would wait for the counter's row in any case, and so they share one trip and one commit. If one of them is
 * refused, each is tried on its own. Whatever happens, each entry that is taken from its lane is answered.
 */
final class Lanes {

    private static final int MOST_TOGETHER = 64;
    /** The classes of SQL states of a lost connection and of an operator's intervention. */
    private static final String CONNECTION = "08";

    private static final String OPERATOR = "57";

    private final Database database;
    /** By the identity of the table. A lane is let go when its table changes; whoever waits in it goes on all the same. */
    private final Map<Long, Lane> lanes = new ConcurrentHashMap<>();

    Lanes(Database database) {
        this.database = database;
        database.changes().listenAtOnce(change -> {
            if (change instanceof Change.OfTable(long table)) {
                lanes.remove(table);
            }
        });
    }

    /** An entry to be written, and what came of it. */
    private static final class InLane {
        private final StoredTable table;
        private final Map<String, Value> values;
        private final Optional<SaveKey> key;
        private final Origin origin;
        private volatile @Nullable StoredRow saved;
        private volatile @Nullable Exception failed;

        InLane(StoredTable table, New entry, Origin origin) {
            this.table = table;
            this.values = entry.values();
            this.key = entry.key();
            this.origin = origin;
        }

        boolean answered() {
            return saved != null || failed != null;
        }

        /** Whether it was not written for sure, so that it may be tried again: not so when the connection was lost. */
        boolean refused() {
            return failed instanceof RuntimeException
                    || (failed instanceof SQLException e
                            && e.getSQLState() != null
                            && !e.getSQLState().startsWith(CONNECTION)
                            && !e.getSQLState().startsWith(OPERATOR));
        }

        StoredRow answer() throws SQLException {
            switch (failed) {
                case null -> {
                    return Objects.requireNonNull(saved);
                }
                case SQLException refused -> throw refused;
                case RuntimeException unforeseen -> throw unforeseen;
                default -> throw new IllegalStateException(failed);
            }
        }
    }

    /** Those who wait to write to one table, and the statement that writes to it as it was last known. */
    private static final class Lane {
        private final ReentrantLock turn = new ReentrantLock();
        private final Queue<InLane> waiting = new ConcurrentLinkedQueue<>();
        private volatile @Nullable Statement statement;

        String statement(DSLContext sql, StoredTable table) {
            var last = statement;
            if (last == null || !last.table.equals(table)) {
                last = new Statement(table, SaveSql.of(sql, table));
                statement = last;
            }
            return last.text;
        }
    }

    private record Statement(StoredTable table, String text) {}

    /**
     * Writes an entry to the next free row.
     *
     * @throws SQLException as the database refuses it
     * @throws TableChanged when the table is another one than the entry is for
     */
    StoredRow save(StoredTable table, New fresh, Origin origin) throws SQLException {
        var entry = new InLane(table, fresh, origin);
        var lane = lanes.computeIfAbsent(table.id(), _ -> new Lane());
        lane.waiting.add(entry);
        lane.turn.lock();
        try {
            while (!entry.answered()) {
                writeWaiting(lane);
            }
        } finally {
            lane.turn.unlock();
        }
        return entry.answer();
    }

    /** Writes those who wait, as far as they know the table alike. */
    private void writeWaiting(Lane lane) {
        var together = new ArrayList<InLane>();
        for (InLane next; together.size() < MOST_TOGETHER && (next = lane.waiting.peek()) != null; ) {
            if (!together.isEmpty() && !next.table.equals(together.getFirst().table)) {
                break;
            }
            together.add(lane.waiting.remove());
        }
        tried(lane, together);
        if (together.size() > 1) {
            together.stream().filter(InLane::refused).forEach(entry -> {
                entry.failed = null;
                tried(lane, List.of(entry));
            });
        }
    }

    /** Writes them all or none. Each is answered then, even when this ends with an error. */
    private void tried(Lane lane, List<InLane> together) {
        Exception failed = null;
        try (var connection = database.source().getConnection()) {
            var table = together.getFirst().table;
            write(connection, table, lane.statement(database.sql(), table), together);
        } catch (SQLException | RuntimeException e) {
            failed = e;
            if (e instanceof SQLException lost
                    && lost.getSQLState() != null
                    && lost.getSQLState().startsWith(CONNECTION)) {
                // The others that go to where this one went are no better.
                database.letGo();
            }
        } finally {
            for (var entry : together) {
                if (!entry.answered()) {
                    entry.failed = failed == null ? new TableChanged() : failed;
                }
            }
        }
    }

    /**
     * Writes an entry on a connection whose transaction is the caller's.
     *
     * @throws SQLException as the database refuses it
     * @throws TableChanged when the table is another one than the entry is for
     */
    StoredRow save(Connection connection, StoredTable table, New fresh, Origin origin) throws SQLException {
        return save(connection, table, List.of(fresh), origin).getFirst();
    }

    /** A new entry of a table that is known. */
    record New(Map<String, Value> values, Optional<SaveKey> key) {}

    /**
     * Where new entries come from.
     *
     * @param by who enters them
     * @param form the form that they come through; empty for none
     */
    record Origin(String by, Optional<String> form) {}

    /** The same of many: they get rows that follow each other, in their order. */
    List<StoredRow> save(Connection connection, StoredTable table, List<New> many, Origin origin) throws SQLException {
        var entries = many.stream().map(each -> new InLane(table, each, origin)).toList();
        write(connection, table, SaveSql.of(database.sql(), table), entries);
        var saved = new ArrayList<StoredRow>();
        for (var entry : entries) {
            if (!entry.answered()) {
                throw new TableChanged();
            }
            saved.add(entry.answer());
        }
        return saved;
    }

    private static void write(Connection connection, StoredTable table, String text, List<InLane> entries)
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
            statement.setArray(parameter++, texts(connection, entries, entry -> entry.origin.by()));
            statement.setArray(
                    parameter++,
                    texts(connection, entries, entry -> entry.origin.form().orElse(null)));
            statement.setArray(parameter++, texts(connection, entries, entry -> ValuesJson.write(entry.values)));
            for (var column : table.definition().columns()) {
                statement.setArray(
                        parameter++, texts(connection, entries, entry -> plain(entry.values.get(column.name()))));
            }
            var saved = new HashMap<InLane, StoredRow>();
            try (var kept = statement.executeQuery()) {
                while (kept.next()) {
                    var entry = entries.get(kept.getInt(1));
                    saved.put(entry, new StoredRow(kept.getLong(2), kept.getLong(3), 1, entry.values));
                }
            }
            if (table.adopted().isPresent()) {
                asStored(connection, table, saved);
            }
            saved.forEach((entry, row) -> entry.saved = row);
        }
    }

    /** What an adopted table made of them, by defaults and triggers of its own. */
    private static void asStored(Connection connection, StoredTable table, Map<InLane, StoredRow> saved) {
        var ids = saved.values().stream().map(StoredRow::id).toList();
        var stored = DSL.using(connection, SQLDialect.POSTGRES)
                .select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.in(ids))
                .fetchMap(row -> (Long) row.get(0), row -> RecordRows.of(table, row));
        saved.replaceAll((_, row) -> stored.getOrDefault(row.id(), row));
    }

    private static Array texts(Connection connection, List<InLane> entries, Function<InLane, @Nullable String> part)
            throws SQLException {
        return connection.createArrayOf("text", entries.stream().map(part).toArray(String[]::new));
    }

    private static @Nullable String plain(@Nullable Value value) {
        return value == null ? null : ColumnSql.spelled(value);
    }
}
