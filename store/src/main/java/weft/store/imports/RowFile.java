package weft.store.imports;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.util.List;
import org.jooq.Record;
import weft.core.value.ColumnType;
import weft.store.schema.tables.Import;

/** How a file of rows is written. Whatever it is, it is read a row at a time and never held as a whole. */
sealed interface RowFile permits CsvFile, OdsFile, JsonFile {

    /** A row of cells and the number of the line or row of the file in which it begins, counted from 1. */
    record Row(long line, List<String> cells) {
        boolean blank() {
            return cells.stream().allMatch(String::isBlank);
        }
    }

    /** What is done with each row. */
    interface RowTaker {
        void take(Row row) throws IOException;
    }

    /** The file's bytes, from its beginning each time. */
    interface Bytes {
        InputStream open() throws IOException;
    }

    /**
     * Gives every row that is not blank, the headings first, to the taker.
     *
     * @throws BadFile when the file breaks the rules of its format
     */
    void read(Bytes bytes, RowTaker taker) throws IOException;

    /** Whether numbers and dates are told from text by the file itself, so that there is one way to read them. */
    boolean typed();

    /** A cell as one of a column of that type, where formats spell a type in a way of their own. */
    default String spelled(ColumnType type, String cell) {
        return cell;
    }

    /** The file of a row of {@code weft.import}. */
    static RowFile of(Record row) {
        return switch (row.get(Import.IMPORT.FORMAT)) {
            case "ods" -> new OdsFile(row.get(Import.IMPORT.SHEET));
            case "json" -> new JsonFile();
            default ->
                new CsvFile(
                        Charset.forName(row.get(Import.IMPORT.CHARSET)),
                        row.get(Import.IMPORT.SEPARATOR).charAt(0));
        };
    }

    /** What it is called in {@code weft.import}. */
    default String format() {
        return switch (this) {
            case CsvFile _ -> "csv";
            case OdsFile _ -> "ods";
            case JsonFile _ -> "json";
        };
    }
}
