package weft.server.imports;

import java.util.HashSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Names;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Value;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Look;
import weft.store.imports.Misfit;

/**
 * What a file would become.
 *
 * @param name a name for the table, made from the file's
 * @param format what the file is: csv, ods or json
 * @param sheets the names of the file's sheets; none where it has no such thing
 * @param sheet which of them these are the rows of, from 0
 * @param beyond cells that stand beyond the headings
 */
record ImportReport(
        String id,
        String name,
        String title,
        long rows,
        String format,
        List<String> sheets,
        int sheet,
        List<ColumnReport> columns,
        List<MisfitJson> beyond,
        List<List<Value>> preview) {

    /** A column of the file, with what does not fit in it. */
    record ColumnReport(
            String name,
            String title,
            ColumnType type,
            @Nullable Integer scale,
            boolean required,
            boolean unique,
            String reason,
            @Nullable DayOrder dayOrder,
            boolean askDayOrder,
            @Nullable DecimalSign decimalSign,
            boolean askDecimalSign,
            @Nullable String to,
            @Nullable List<String> shown,
            List<LinkOffer> offers,
            long misfitCount,
            List<MisfitJson> misfits) {}

    /**
     * A column of another table in which every value of this one is found, so that it could be a link.
     *
     * @param table the name of the table
     * @param title what people call the table
     * @param column the name of the column
     */
    record LinkOffer(String table, String title, String column) {}

    /**
     * A cell that does not fit its column.
     *
     * @param line the line of the file on which its row begins, from 1; where it is no text, the row itself
     * @param column the name of the column; empty for a cell beyond the headings
     * @param cell what stands in it
     * @param message what is wrong with it
     */
    record MisfitJson(long line, String column, String cell, String message) {
        static List<MisfitJson> of(List<Misfit> misfits) {
            return misfits.stream()
                    .map(each -> new MisfitJson(each.line(), each.column(), each.cell(), each.message()))
                    .toList();
        }
    }

    static ImportReport of(Brought brought, Look look) {
        var columns = look.columns().stream()
                .map(column -> {
                    var name = column.column().name();
                    return new ColumnReport(
                            name,
                            column.column().title(),
                            column.column().type(),
                            column.column().scale().isPresent()
                                    ? column.column().scale().getAsInt()
                                    : null,
                            column.column().required(),
                            column.column().unique(),
                            column.reason(),
                            column.dayOrder().orElse(null),
                            column.askDayOrder(),
                            column.column().type().isNumber() ? column.signs().sign() : null,
                            column.askDecimalSign(),
                            column.column().link().map(Link::to).orElse(null),
                            column.column()
                                    .link()
                                    .map(link -> link.shown().stream()
                                            .map(Column::name)
                                            .toList())
                                    .orElse(null),
                            column.offers().stream()
                                    .map(offer -> new LinkOffer(offer.table(), offer.title(), offer.column()))
                                    .toList(),
                            look.misfitCounts().getOrDefault(name, 0L),
                            misfits(look, name));
                })
                .toList();
        var title = titleOf(brought);
        return new ImportReport(
                brought.id(),
                Names.name(title, 1, new HashSet<>()),
                title,
                look.rows(),
                brought.format(),
                brought.sheets(),
                brought.sheet(),
                columns,
                misfits(look, ""),
                look.preview());
    }

    private static List<MisfitJson> misfits(Look look, String column) {
        return MisfitJson.of(look.misfits().stream()
                .filter(misfit -> misfit.column().equals(column))
                .toList());
    }

    static String titleOf(Brought brought) {
        var file = brought.fileName().replaceAll("^.*[/\\\\]", "").replaceAll("\\.[A-Za-z]{2,4}$", "");
        return Names.title(file.replaceAll("[-_ ]+", "_"), 1);
    }
}
