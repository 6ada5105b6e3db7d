package weft.store.imports;

import static weft.store.schema.Tables.IMPORT;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import weft.core.record.StoredRows;
import weft.store.imports.Imports.Brought;

/** The rows of a file that is kept, read from the database a piece at a time. */
final class KeptRows {

    private static final int BLOCK = 500;

    private final DSLContext sql;
    private final Brought file;
    private final StoredRows stored;
    private final RowFile how;

    /**
     * The rows of that file.
     *
     * @param stored the records that its cells can link to
     * @throws Imports.GivenUp when somebody gave it up meanwhile
     */
    KeptRows(DSLContext sql, Brought file, StoredRows stored) {
        this.sql = sql;
        this.file = file;
        this.stored = stored;
        this.how = sql.select(IMPORT.FORMAT, IMPORT.SHEET, IMPORT.CHARSET, IMPORT.SEPARATOR)
                .from(IMPORT)
                .where(IMPORT.ID.eq(file.id()))
                .fetchOptional(RowFile::of)
                .orElseThrow(Imports.GivenUp::new);
    }

    /** A reader of them as those columns. */
    RowReader reader(List<ImportColumn> columns) {
        return new RowReader(columns, how, file.columns().size(), stored);
    }

    /** Gives every row below the headings to the taker, some hundred at a time, and says how many there were. */
    long each(RowReader reader, RowFile.RowTaker taker) {
        var block = new ArrayList<RowFile.Row>();
        long[] seen = {-1};
        try {
            how.read(() -> Pieces.read(sql, file.id()), row -> {
                if (seen[0]++ < 0) {
                    return;
                }
                block.add(row);
                if (block.size() == BLOCK) {
                    take(block, reader, taker);
                }
            });
            take(block, reader, taker);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return Math.max(0, seen[0]);
    }

    private static void take(List<RowFile.Row> block, RowReader reader, RowFile.RowTaker taker) throws IOException {
        reader.ahead(block);
        for (var row : block) {
            taker.take(row);
        }
        block.clear();
    }
}
