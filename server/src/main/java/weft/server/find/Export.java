package weft.server.find;

import de.siegmar.fastcsv.writer.CsvWriter;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Stream;
import tools.jackson.databind.json.JsonMapper;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.SpreadsheetGuard;
import weft.core.value.Value;
import weft.store.form.ShownForm;
import weft.store.record.ValuesJson;

/** Writes records one by one to where they are sent: the row number, then what the form shows. */
interface Export {

    void write(StoredRow record);

    /** Ends a whole export. One that breaks off is never ended, so that it does not look whole. */
    void close() throws IOException;

    /**
     * CSV as in RFC 4180, in UTF-8, with a line of headings. Text that a spreadsheet would run as a formula is kept from it
     * by an apostrophe before it.
     */
    static Export csv(OutputStream out, ShownForm form, List<Column> columns) {
        var writer = CsvWriter.builder()
                .build(new OutputStreamWriter(new BufferedOutputStream(out), StandardCharsets.UTF_8));
        writer.writeRecord(Stream.concat(
                        Stream.of("Row"), columns.stream().map(column -> SpreadsheetGuard.guarded(form.label(column))))
                .toList());
        return new Export() {
            @Override
            public void write(StoredRow record) {
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

    private static String cell(Column column, StoredRow record) {
        return switch (record.of(column.name())) {
            case Value.YesNo(boolean yes) -> yes ? "yes" : "no";
            case Value.Text(var text) -> SpreadsheetGuard.guarded(text);
            case Value.Link link -> SpreadsheetGuard.guarded(link.shown());
            case Value.Empty _,
                    Value.Whole _,
                    Value.Decimal _,
                    Value.Day _,
                    Value.Hour _,
                    Value.Moment _,
                    Value.Image _ -> record.of(column.name()).plain();
        };
    }

    /** A JSON list of objects, with the values as the API has them. */
    static Export json(OutputStream out, List<Column> shown) {
        var columns = shown.stream().map(Column::name).toList();
        var generator = JsonMapper.shared().createGenerator(new BufferedOutputStream(out));
        generator.writeStartArray();
        return new Export() {
            @Override
            public void write(StoredRow record) {
                generator.writeRaw('\n');
                generator.writeStartObject();
                generator.writeNumberProperty("row", record.row());
                for (var column : columns) {
                    generator.writePOJOProperty(column, ValuesJson.of(record.of(column)));
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
