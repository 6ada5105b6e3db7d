package weft.store.imports;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Imports.LeftTaker;

/** The rows of a file in which cells do not fit its columns, as they stand there, each with the reason. */
record LeftRows(Brought file, List<ImportColumn> columns) {

    /** Gives the headings and then those rows to the taker; answers how many rows the file has. */
    long give(KeptRows kept, LeftTaker taker) {
        var titles = file.columns().stream().map(each -> each.column().title()).toList();
        try {
            taker.take(titles, "Why");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        var reader = kept.reader(columns);
        return kept.each(reader, row -> {
            var misfits = new ArrayList<Misfit>();
            reader.read(row, misfits::add);
            if (!misfits.isEmpty()) {
                var cells = new ArrayList<>(row.cells());
                while (cells.size() < titles.size()) {
                    cells.add("");
                }
                taker.take(cells.subList(0, titles.size()), why(misfits));
            }
        });
    }

    private String why(List<Misfit> misfits) {
        return misfits.stream()
                .map(misfit -> columns.stream()
                        .filter(each -> each.column().name().equals(misfit.column()))
                        .findFirst()
                        .map(each -> each.column().title() + ": " + misfit.message())
                        .orElse(misfit.message()))
                .collect(Collectors.joining(" "));
    }
}
