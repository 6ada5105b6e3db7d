package weft.store.imports;

import static weft.store.schema.Tables.IMPORT;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import weft.core.guess.ColumnGuesser;
import weft.core.table.Names;
import weft.core.table.TableProposal;
import weft.store.imports.Imports.Brought;

/** What the columns of a file seem to be. */
final class Guessed {

    private Guessed() {}

    /**
     * The file with its columns guessed, which are kept with it.
     *
     * @throws BadFile when it has no headings, or more than a table has columns
     */
    static Brought of(DSLContext within, String id, String fileName, RowFile how, List<String> sheets)
            throws IOException {
        var headings = new ArrayList<String>();
        var guessers = new ArrayList<ColumnGuesser>();
        long[] rows = {0};
        RowFile.Bytes bytes = () -> Pieces.read(within, id);
        how.read(bytes, row -> {
            if (headings.isEmpty()) {
                headings.addAll(row.cells());
                headings.forEach(heading -> guessers.add(new ColumnGuesser(heading, how.typed())));
                return;
            }
            rows[0]++;
            for (int i = 0; i < guessers.size(); i++) {
                guessers.get(i).accept(i < row.cells().size() ? row.cells().get(i) : "");
            }
        });
        if (headings.isEmpty()) {
            throw new BadFile("The file is empty. It needs a line of headings and a line for each row.");
        }
        if (headings.size() > TableProposal.MOST_COLUMNS) {
            throw new BadFile("The file has " + headings.size() + " columns; a table can have "
                    + TableProposal.MOST_COLUMNS + " at most.");
        }
        var offers = new LinkOffers(
                within, guessers.stream().map(ColumnGuesser::guess).toList());
        if (offers.any()) {
            how.read(bytes, offers::take);
        }
        var found = offers.found();
        var titles = Names.titles(headings);
        var taken = new HashSet<String>();
        var columns = new ArrayList<ImportColumn>();
        for (int i = 0; i < headings.size(); i++) {
            var name = Names.name(titles.get(i), i + 1, taken);
            columns.add(
                    ImportColumn.guessed(i, name, titles.get(i), guessers.get(i).guess())
                            .offering(found.get(i)));
        }
        int sheet = how instanceof OdsFile(int which) ? which : 0;
        var update = within.update(IMPORT)
                .set(IMPORT.FORMAT, how.format())
                .set(IMPORT.SHEET, sheet)
                .set(IMPORT.SHEETS, JSONB.valueOf(ImportJson.names(sheets)))
                .set(IMPORT.LINES, rows[0])
                .set(IMPORT.COLUMNS, JSONB.valueOf(ImportJson.write(columns)));
        if (how instanceof CsvFile(var charset, char separator)) {
            update = update.set(IMPORT.CHARSET, charset.name()).set(IMPORT.SEPARATOR, String.valueOf(separator));
        }
        update.where(IMPORT.ID.eq(id)).execute();
        return new Brought(id, fileName, how.format(), columns, sheets, sheet);
    }
}
