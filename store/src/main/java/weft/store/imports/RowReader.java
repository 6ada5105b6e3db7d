package weft.store.imports;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import weft.core.record.Links;
import weft.core.record.RememberedRows;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.value.NormalText;
import weft.core.value.Order;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Reads the rows of a file as values of a table's columns, and says which cells don't fit. */
final class RowReader {

    private final List<ImportColumn> columns;
    private final List<ValueReader> readers;
    private final RowFile file;
    private final int width;
    private final RememberedRows stored;

    /**
     * A reader of these columns.
     *
     * @param file how the file spells values
     * @param width how many columns the file's headings name
     * @param stored the records that they can link to
     */
    RowReader(List<ImportColumn> columns, RowFile file, int width, StoredRows stored) {
        this.columns = columns;
        this.stored = new RememberedRows(stored);
        this.readers = columns.stream()
                .map(column -> ValueReader.ofGrouped(column.conventions()))
                .toList();
        this.file = file;
        this.width = width;
    }

    /** Is told of every cell that can't be stored as it is. */
    interface MisfitTaker {
        void take(Misfit misfit);
    }

    /** Says which rows are read next, so that what they link to is looked up at once. */
    void ahead(List<RowFile.Row> rows) {
        for (var each : columns) {
            each.column().link().ifPresent(link -> {
                var words = new HashSet<String>();
                rows.forEach(row -> words.add(NormalText.of(cell(each, row))));
                words.remove("");
                words.removeIf(NormalText::hasUnstorable);
                Links.lookUp(link, words, stored);
            });
        }
    }

    private String cell(ImportColumn column, RowFile.Row row) {
        return column.from() < row.cells().size()
                ? file.spelled(column.column().type(), row.cells().get(column.from()))
                : "";
    }

    /** The values of a row in the order of the columns; a cell that does not fit is empty and told of. */
    List<Value> read(RowFile.Row row, MisfitTaker misfits) {
        var values = new ArrayList<Value>(columns.size());
        for (int i = 0; i < columns.size(); i++) {
            values.add(value(i, cell(columns.get(i), row), row.line(), misfits));
        }
        for (int extra = width; extra < row.cells().size(); extra++) {
            if (!row.cells().get(extra).isBlank()) {
                misfits.take(new Misfit(
                        row.line(),
                        "",
                        row.cells().get(extra),
                        "The row has " + row.cells().size() + " cells and the headings name " + width
                                + ". This one would be left out."));
            }
        }
        return values;
    }

    private Value value(int i, String cell, long line, MisfitTaker misfits) {
        var column = columns.get(i).column();
        var reading = new Links(stored, columns.get(i).conventions())
                .meant(column, readers.get(i).read(column.kind(), cell), Value.EMPTY);
        if (reading instanceof Reading.Refused(var refusal)) {
            misfits.take(new Misfit(line, column.name(), cell, refusal.words()));
            return Value.EMPTY;
        }
        var value = ((Reading.Read) reading).value();
        var fault = fault(column, value);
        fault.ifPresent(message -> misfits.take(new Misfit(line, column.name(), cell, message)));
        return fault.isPresent() ? Value.EMPTY : value;
    }

    private static Optional<String> fault(Column column, Value value) {
        if (value.isEmpty()) {
            return column.required() ? Optional.of("A value is needed here.") : Optional.empty();
        }
        if (column.min().filter(min -> Order.compare(value, min) < 0).isPresent()) {
            return Optional.of("It is below " + column.min().get().spoken() + ".");
        }
        if (column.max().filter(max -> Order.compare(value, max) > 0).isPresent()) {
            return Optional.of("It is above " + column.max().get().spoken() + ".");
        }
        int most = column.longest().orElse(Integer.MAX_VALUE);
        return value instanceof Value.Text(var text) && text.codePointCount(0, text.length()) > most
                ? Optional.of("It has more than %,d characters.".formatted(most))
                : Optional.empty();
    }
}
