package weft.server.imports;

import java.io.IOException;
import java.net.URI;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import weft.core.table.Faults;
import weft.core.table.Names;
import weft.core.table.TableProposal;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Value;
import weft.server.http.Problem;
import weft.server.table.ColumnAsked;
import weft.store.imports.BadFile;
import weft.store.imports.ImportColumn;
import weft.store.imports.Imports;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Imports.OnMisfit;
import weft.store.imports.Look;
import weft.store.imports.Misfit;
import weft.store.record.ValuesJson;

/** A file is brought in, looked at with these or those column types, and loaded into a table of its own. */
@RestController
class ImportsApi {

    private static final String SOMEBODY = "somebody";

    private final Imports imports;

    ImportsApi(Imports imports) {
        this.imports = imports;
    }

    /** A column of the file, with what does not fit in it. */
    record ColumnReport(
            String name,
            String title,
            String type,
            @Nullable Integer scale,
            boolean required,
            boolean unique,
            String reason,
            @Nullable String dayOrder,
            boolean askDayOrder,
            long misfitCount,
            List<MisfitJson> misfits) {}

    /**
     * A cell that does not fit its column.
     *
     * @param line the line of the file on which its row begins, from 1
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

    /**
     * What a file would become.
     *
     * @param name a name for the table, made from the file's
     * @param beyond cells that stand beyond the headings
     */
    record Report(
            String id,
            String name,
            String title,
            long rows,
            List<ColumnReport> columns,
            List<MisfitJson> beyond,
            List<List<@Nullable Object>> preview) {}

    /**
     * How a column of the file is to be taken; what is not said stays as it was guessed.
     *
     * @param from its place in the file from 0; else it is found by its name
     * @param dayOrder the order of its dates of digits: day-first or month-first
     */
    record FileColumn(
            @Nullable String name,
            @Nullable String title,
            @Nullable String type,
            @Nullable Boolean required,
            @Nullable Boolean unique,
            @Nullable Integer scale,
            @Nullable Object min,
            @Nullable Object max,
            @Nullable List<String> choices,
            @Nullable Integer from,
            @Nullable String dayOrder) {}

    record FileColumns(@Nullable List<FileColumn> columns) {}

    /**
     * The table to be made of a file.
     *
     * @param misfits what is done with cells that don't fit: stop, which is usual, or empty
     */
    record TableFromFile(
            @Nullable String name,
            @Nullable String title,
            @Nullable List<FileColumn> columns,
            @Nullable String misfits) {}

    record ProgressJson(long loaded, long rows) {}

    record Loaded(String table, String form, long rows) {}

    @PostMapping(path = "/api/imports", consumes = "multipart/form-data")
    ResponseEntity<Report> bring(@RequestPart("file") MultipartFile file) throws IOException {
        var name = Optional.ofNullable(file.getOriginalFilename()).orElse("table.csv");
        try (var bytes = file.getInputStream()) {
            var brought = imports.bring(name, bytes);
            return ResponseEntity.created(URI.create("/api/imports/" + brought.id()))
                    .body(report(brought, imports.look(brought, brought.columns())));
        }
    }

    @GetMapping("/api/imports/{id}")
    Report report(@PathVariable String id) {
        var brought = brought(id);
        return report(brought, imports.look(brought, brought.columns()));
    }

    @PostMapping("/api/imports/{id}/look")
    Report look(@PathVariable String id, @RequestBody FileColumns asked) {
        var brought = brought(id);
        return report(brought, imports.look(brought, columns(brought, asked.columns())));
    }

    @GetMapping("/api/imports/{id}/progress")
    ProgressJson progress(@PathVariable String id) {
        return imports.progress(id)
                .map(so -> new ProgressJson(so.loaded(), so.rows()))
                .orElseThrow(() -> Problem.unknown("file " + id));
    }

    @DeleteMapping("/api/imports/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void giveUp(@PathVariable String id) {
        imports.giveUp(id);
    }

    @PostMapping("/api/imports/{id}/table")
    ResponseEntity<Loaded> load(@PathVariable String id, @RequestBody TableFromFile asked) {
        var brought = brought(id);
        var columns = columns(brought, asked.columns());
        for (int i = 0; i < columns.size(); i++) {
            if (columns.get(i).askDayOrder()) {
                throw new Faults(
                        "columns[" + i + "].dayOrder",
                        "In " + columns.get(i).column().title()
                                + " it can't be told whether day or month comes first. Say day-first or month-first.");
            }
        }
        var table = new TableProposal(
                        asked.name() == null ? "" : asked.name(),
                        asked.title() == null ? titleOf(brought) : asked.title(),
                        columns.stream().map(ImportsApi::proposal).toList(),
                        "after-last")
                .named()
                .checked();
        var loaded = imports.load(brought, table, columns, onMisfit(asked.misfits()), conventions(columns), SOMEBODY);
        return ResponseEntity.created(URI.create("/api/tables/" + table.name()))
                .body(new Loaded(table.name(), loaded.form(), loaded.rows()));
    }

    private static TableProposal.ColumnProposal proposal(ImportColumn guess) {
        var column = guess.column();
        return new TableProposal.ColumnProposal(
                column.name(),
                column.title(),
                column.type().wire(),
                column.required(),
                column.unique(),
                column.scale(),
                column.min().map(Value::plain),
                column.max().map(Value::plain),
                column.choices(),
                column.usualLength());
    }

    private static OnMisfit onMisfit(@Nullable String asked) {
        return switch (asked == null ? "stop" : asked) {
            case "stop" -> OnMisfit.STOP;
            case "empty" -> OnMisfit.EMPTY;
            default -> throw Problem.malformed("What is done with cells that don't fit is stop or empty.");
        };
    }

    @ExceptionHandler
    ProblemDetail misfits(Imports.MisfitsFound found) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.UNPROCESSABLE_CONTENT,
                found.look().misfitCount() == 1
                        ? "One cell does not fit its column. Nothing was loaded."
                        : found.look().misfitCount() + " cells do not fit their columns. Nothing was loaded.");
        detail.setProperty("misfits", MisfitJson.of(found.look().misfits()));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail badFile(BadFile bad) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.BAD_REQUEST, bad.getMessage());
    }

    @ExceptionHandler
    ProblemDetail givenUp(Imports.GivenUp given) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.CONFLICT, "The load was given up. Nothing was kept.");
    }

    private Brought brought(String id) {
        return imports.find(id).orElseThrow(() -> Problem.unknown("file " + id));
    }

    /** The guessed columns, changed as asked: by their place in the file, else by name. */
    private static List<ImportColumn> columns(Brought brought, @Nullable List<FileColumn> asked) {
        var columns = new ArrayList<>(brought.columns());
        for (var change : asked == null ? List.<FileColumn>of() : asked) {
            int at = change.from() != null
                    ? change.from()
                    : IntStream.range(0, columns.size())
                            .filter(i -> columns.get(i).column().name().equals(change.name()))
                            .findFirst()
                            .orElse(-1);
            if (at < 0 || at >= columns.size()) {
                throw Problem.malformed("The file has no column “" + change.name() + "”.");
            }
            columns.set(at, changed(columns.get(at), change, at));
        }
        return columns;
    }

    private static ImportColumn changed(ImportColumn guess, FileColumn change, int at) {
        var now = guess.column();
        var filled = new ColumnAsked(
                change.name() == null ? now.name() : change.name(),
                change.title() == null ? now.title() : change.title(),
                change.type() == null ? now.type().wire() : change.type(),
                change.required(),
                change.unique(),
                change.scale() != null || now.scale().isEmpty() || !"decimal".equals(change.type())
                        ? change.scale()
                        : Integer.valueOf(now.scale().getAsInt()),
                change.min(),
                change.max(),
                change.choices());
        var column = new TableProposal("t", "", List.of(filled.proposal(now.usualLength())), "after-last")
                .checked()
                .columns()
                .getFirst();
        boolean dated = column.type() == ColumnType.DATE || column.type() == ColumnType.DATETIME;
        var order = dayOrder(change.dayOrder(), at).or(guess::dayOrder);
        return new ImportColumn(
                guess.from(),
                column,
                column.type() == now.type() ? guess.reason() : "as you chose",
                order,
                dated && guess.askDayOrder() && order.isEmpty(),
                guess.decimalSign());
    }

    private static Optional<DayOrder> dayOrder(@Nullable String asked, int at) {
        return switch (asked) {
            case null -> Optional.empty();
            case "day-first" -> Optional.of(DayOrder.DAY_FIRST);
            case "month-first" -> Optional.of(DayOrder.MONTH_FIRST);
            default -> throw new Faults("columns[" + at + "].dayOrder", "The order is day-first or month-first.");
        };
    }

    /** The form's people write as the file does. */
    private static Conventions conventions(List<ImportColumn> columns) {
        var order =
                columns.stream().flatMap(column -> column.dayOrder().stream()).findFirst();
        var sign = columns.stream()
                .filter(column -> column.column().type() == ColumnType.DECIMAL)
                .map(ImportColumn::decimalSign)
                .findFirst();
        return new Conventions(order.orElse(DayOrder.MONTH_FIRST), sign.orElse(DecimalSign.POINT));
    }

    private static Report report(Brought brought, Look look) {
        var columns = look.columns().stream()
                .map(column -> {
                    var name = column.column().name();
                    return new ColumnReport(
                            name,
                            column.column().title(),
                            column.column().type().wire(),
                            column.column().scale().isPresent()
                                    ? column.column().scale().getAsInt()
                                    : null,
                            column.column().required(),
                            column.column().unique(),
                            column.reason(),
                            column.dayOrder()
                                    .map(order -> order.name()
                                            .toLowerCase(Locale.ROOT)
                                            .replace('_', '-'))
                                    .orElse(null),
                            column.askDayOrder(),
                            look.misfitCounts().getOrDefault(name, 0L),
                            misfits(look, name));
                })
                .toList();
        var title = titleOf(brought);
        return new Report(
                brought.id(),
                Names.name(title, 1, new HashSet<>()),
                title,
                look.rows(),
                columns,
                misfits(look, ""),
                look.preview().stream()
                        .map(row -> row.stream().map(ValuesJson::of).toList())
                        .toList());
    }

    private static List<MisfitJson> misfits(Look look, String column) {
        return MisfitJson.of(look.misfits().stream()
                .filter(misfit -> misfit.column().equals(column))
                .toList());
    }

    private static String titleOf(Brought brought) {
        var file = brought.fileName().replaceAll("^.*[/\\\\]", "").replaceAll("\\.[A-Za-z]{2,4}$", "");
        return Names.title(file.replaceAll("[-_ ]+", "_"), 1);
    }
}
