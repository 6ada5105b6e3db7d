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

/** Writes many new records through PostgreSQL's COPY, in its text format, numbering their rows from 1. */
final class CopyRows implements AutoCloseable {

    private static final int BUFFER = 64 * 1024;

    private final CopyIn copy;
    private final String by;
    private final StringBuilder buffer = new StringBuilder(BUFFER + 4096);
    private long row = 0;

    CopyRows(Connection connection, StoredTable table, List<String> columns, String by) throws SQLException {
        var sql = DSL.using(SQLDialect.POSTGRES);
        var names = columns.stream()
                .map(column -> ", " + sql.render(DSL.name(column)))
                .collect(Collectors.joining());
        this.copy = connection
                .unwrap(PGConnection.class)
                .getCopyAPI()
                .copyIn("copy " + sql.render(table.sqlName()) + " (_row, _version, _entered_by" + names
                        + ") from stdin");
        var escaped = new StringBuilder();
        escape(by, escaped);
        this.by = escaped.toString();
    }

    void write(List<Value> values) {
        buffer.append(++row).append("\t1\t").append(by);
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
