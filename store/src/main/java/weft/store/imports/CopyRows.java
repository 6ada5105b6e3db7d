package weft.store.imports;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.stream.Collectors;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import weft.core.value.Value;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;

/** Writes many rows through PostgreSQL's COPY, in its text format, numbering them from 1. */
final class CopyRows implements AutoCloseable {

    private static final int BUFFER = 64 * 1024;

    private final CopyIn copy;
    private final StringBuilder buffer = new StringBuilder(BUFFER + 4096);
    private long row = 0;

    /**
     * Into a table.
     *
     * @param to the table and its columns: the number of a row, what is written before its values, and those
     */
    CopyRows(Connection connection, String to) throws SQLException {
        this.copy = connection.unwrap(PGConnection.class).getCopyAPI().copyIn("copy " + to + " from stdin");
    }

    /** Into a table that has no records yet. */
    static CopyRows ofRecords(Connection connection, StoredTable table, List<String> columns) throws SQLException {
        var sql = DSL.using(SQLDialect.POSTGRES);
        var names = columns.stream()
                .map(column -> ", " + sql.render(DSL.name(column)))
                .collect(Collectors.joining());
        return new CopyRows(connection, sql.render(table.sqlName()) + " (_row, _version, _entered_by" + names + ")");
    }

    void write(List<String> before, List<Value> values) {
        buffer.append(++row);
        for (var text : before) {
            buffer.append('\t');
            escape(text, buffer);
        }
        for (var value : values) {
            buffer.append('\t');
            if (value.isEmpty()) {
                buffer.append("\\N");
            } else if (value instanceof Value.Text(var text)) {
                escape(text, buffer);
            } else {
                buffer.append(ColumnSql.spelled(value));
            }
        }
        buffer.append('\n');
        if (buffer.length() >= BUFFER) {
            flush();
        }
    }

    /** Ends the writing and says how many rows there are. */
    long end() throws SQLException {
        flush();
        copy.endCopy();
        return row;
    }

    /** Breaks the writing off unless it was ended; the connection can't be used for anything else before. */
    @Override
    public void close() throws SQLException {
        if (copy.isActive()) {
            copy.cancelCopy();
        }
    }

    private void flush() {
        var bytes = buffer.toString().getBytes(StandardCharsets.UTF_8);
        buffer.setLength(0);
        try {
            copy.writeToCopy(bytes, 0, bytes.length);
        } catch (SQLException e) {
            throw new UncheckedIOException(new IOException(e));
        }
    }

    private static void escape(String text, StringBuilder out) {
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            switch (c) {
                case '\\' -> out.append("\\\\");
                case '\n' -> out.append("\\n");
                case '\r' -> out.append("\\r");
                case '\t' -> out.append("\\t");
                default -> out.append(c);
            }
        }
    }
}
