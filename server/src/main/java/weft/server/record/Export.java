package weft.server.record;

import de.siegmar.fastcsv.writer.CsvWriter;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.stream.Stream;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.server.form.PreparedForms.Prepared;
import weft.store.record.StoredRecord;

/** Writes records one by one to where they are sent: the row number, then what the form shows. */
interface Export extends AutoCloseable {

    void write(StoredRecord record);

    @Override
    void close() throws IOException;

    /**
     * CSV as in RFC 4180, in UTF-8, with a line of headings. Text that a spreadsheet would run as a formula is kept from it
     * by an apostrophe before it.
     */
    static Export csv(OutputStream out, Prepared prepared) {
        var writer = CsvWriter.builder()
                .build(new OutputStreamWriter(new BufferedOutputStream(out), StandardCharsets.UTF_8));
        var columns = prepared.plan().columns();
        writer.writeRecord(Stream.concat(
                        Stream.of("Row"), columns.stream().map(column -> harmless(Asked.label(prepared, column))))
                .toList());
        return new Export() {
            @Override
            public void write(StoredRecord record) {
                writer.writeRecord(Stream.concat(
                                Stream.of(Long.toString(record.row())),
                                columns.stream().map(column -> cell(column, record)))
                        .toList());
            }

            @Override
            public void close() throws IOException {
                writer.close();
            }
        };
    }

    private static String cell(Column column, StoredRecord record) {
        return switch (record.values().get(column.name())) {
            case null -> "";
            case Boolean yes -> yes ? "yes" : "no";
            case String text when column.type().isText() -> harmless(text);
            case Object other -> other.toString();
        };
    }

    private static String harmless(String text) {
        return !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }

    /** A JSON list of objects, with the values as the API has them. */
    static Export json(OutputStream out, Prepared prepared) {
        var columns = prepared.plan().columns().stream().map(Column::name).toList();
        var generator = JsonMapper.shared().createGenerator(new BufferedOutputStream(out));
        generator.writeStartArray();
        return new Export() {
            @Override
            public void write(StoredRecord record) {
                generator.writeRaw('\n');
                generator.writeStartObject();
                generator.writeNumberProperty("row", record.row());
                for (var column : columns) {
                    generator.writePOJOProperty(column, record.values().get(column));
                }
                generator.writeEndObject();
            }

            @Override
            public void close() {
                generator.writeEndArray();
                generator.close();
            }
        };
    }
}
