package weft.server.imports;

import de.siegmar.fastcsv.writer.CsvWriter;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
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
import weft.core.door.Person;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.SpreadsheetGuard;
import weft.core.value.Value;
import weft.server.http.Problem;
import weft.store.imports.BadFile;
import weft.store.imports.ImportColumn;
import weft.store.imports.Imports;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Imports.OnMisfit;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** A file is brought in, looked at with these or those column types, and loaded into a table of its own. */
@RestController
class ImportsApi {

    private final Imports imports;
    private final Tables tables;

    ImportsApi(Imports imports, Tables tables) {
        this.imports = imports;
        this.tables = tables;
    }

    private Optional<Table> table(String name) {
        return tables.find(name).map(StoredTable::definition);
    }

    record FileColumns(@Nullable List<FileColumn> columns) {}

    /**
     * The table to be made of a file.
     *
     * @param misfits what is done with cells that don't fit: stop, which is usual, empty, or leave their rows out
     */
    record TableFromFile(
            @Nullable String name,
            @Nullable String title,
            @Nullable List<FileColumn> columns,
            @Nullable OnMisfit misfits) {}

    record ProgressJson(long loaded, long rows) {}

    record Loaded(String table, String form, long rows) {}

    @PostMapping(path = "/api/imports", consumes = "multipart/form-data")
    ResponseEntity<ImportReport> bring(@RequestPart("file") MultipartFile file) throws IOException {
        var name = Optional.ofNullable(file.getOriginalFilename())
                .map(given -> given.replaceAll("\\p{Cntrl}", ""))
                .orElse("table.csv");
        try (var bytes = file.getInputStream()) {
            var brought = imports.bring(name, bytes);
            return ResponseEntity.created(URI.create("/api/imports/" + brought.id()))
                    .body(ImportReport.of(brought, imports.look(brought, brought.columns())));
        }
    }

    /** A file that is kept and not loaded yet. */
    record WaitingJson(String id, String fileName, long rows, String at) {}

    /** The files that are brought in and not loaded yet, the latest first. */
    @GetMapping("/api/imports")
    List<WaitingJson> waiting() {
        return imports.waiting().stream()
                .map(each -> new WaitingJson(
                        each.id(), each.fileName(), each.rows(), each.at().toString()))
                .toList();
    }

    /** The rows in which cells do not fit these columns, as CSV: as they stand in the file, each with the reason beside it. */
    @PostMapping("/api/imports/{id}/left")
    void left(@PathVariable String id, @RequestBody FileColumns asked, HttpServletResponse response)
            throws IOException {
        var brought = brought(id);
        var columns = columns(brought, asked.columns());
        response.setContentType("text/csv;charset=UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=\"left-out.csv\"");
        var csv = CsvWriter.builder().build(new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8));
        imports.left(
                brought,
                columns,
                (cells, why) -> csv.writeRecord(Stream.concat(cells.stream(), Stream.of(why))
                        .map(SpreadsheetGuard::guarded)
                        .toList()));
        // Only a whole one is closed; whatever breaks it off leaves it open.
        csv.close();
    }

    @GetMapping("/api/imports/{id}")
    ImportReport report(@PathVariable String id) {
        var brought = brought(id);
        return ImportReport.of(brought, imports.look(brought, brought.columns()));
    }

    @PostMapping("/api/imports/{id}/look")
    ImportReport look(@PathVariable String id, @RequestBody FileColumns asked) {
        var brought = brought(id);
        return ImportReport.of(brought, imports.look(brought, columns(brought, asked.columns())));
    }

    /**
     * A sheet of a file.
     *
     * @param sheet its place among them, from 0
     */
    record Sheet(int sheet) {}

    /** Goes on with another sheet of the file, whose columns are guessed. */
    @PostMapping("/api/imports/{id}/sheet")
    ImportReport turn(@PathVariable String id, @RequestBody Sheet asked) {
        var brought = imports.turn(brought(id), asked.sheet());
        return ImportReport.of(brought, imports.look(brought, brought.columns()));
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
    ResponseEntity<Loaded> load(@PathVariable String id, Person person, @RequestBody TableFromFile asked) {
        var brought = brought(id);
        var columns = columns(brought, asked.columns());
        for (int i = 0; i < columns.size(); i++) {
            if (columns.get(i).askDayOrder()) {
                throw new Faults(
                        "columns[" + i + "].dayOrder",
                        "In " + columns.get(i).column().title()
                                + " it can't be told whether day or month comes first. Say day-first, month-first or"
                                + " year-first.");
            }
            if (columns.get(i).askDecimalSign()) {
                throw new Faults(
                        "columns[" + i + "].decimalSign",
                        "In " + columns.get(i).column().title()
                                + " it can't be told whether a point or a comma stands before decimals, and which groups"
                                + " thousands. Say point or comma.");
            }
        }
        var table = new TableProposal(
                        asked.name() == null ? "" : asked.name(),
                        asked.title() == null ? ImportReport.titleOf(brought) : asked.title(),
                        columns.stream().map(ImportsApi::proposal).toList(),
                        Table.Placement.AFTER_LAST)
                .named()
                .checked(this::table);
        var loaded = imports.load(
                brought,
                table,
                columns,
                asked.misfits() == null ? OnMisfit.STOP : asked.misfits(),
                conventions(columns),
                person.name());
        return ResponseEntity.created(URI.create("/api/tables/" + table.name()))
                .body(new Loaded(table.name(), loaded.form(), loaded.rows()));
    }

    private static TableProposal.ColumnProposal proposal(ImportColumn guess) {
        var column = guess.column();
        return TableProposal.ColumnProposal.plain(column.name(), column.title(), column.type())
                .required(column.required())
                .unique(column.unique())
                .scaled(column.scale())
                .within(column.min().map(Value::plain), column.max().map(Value::plain))
                .of(column.choices())
                .usually(column.usualLength())
                .leading(column.link()
                        .map(link -> new TableProposal.LinkProposal(
                                link.to(),
                                link.shown().stream().map(Column::name).toList(),
                                link.removed())));
    }

    @ExceptionHandler
    ProblemDetail misfits(Imports.MisfitsFound found) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.UNPROCESSABLE_CONTENT,
                found.look().misfitCount() == 1
                        ? "One cell does not fit its column. Nothing was loaded."
                        : found.look().misfitCount() + " cells do not fit their columns. Nothing was loaded.");
        detail.setProperty("misfits", ImportReport.MisfitJson.of(found.look().misfits()));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail badFile(BadFile bad) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.BAD_REQUEST, bad.getMessage());
    }

    @ExceptionHandler
    ProblemDetail loadedOnce(Imports.LoadedOnce loaded) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.CONFLICT, "This file is loaded already, or is being loaded just now.");
    }

    @ExceptionHandler
    ProblemDetail givenUp(Imports.GivenUp given) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.CONFLICT, "The load was given up. Nothing was kept.");
    }

    private Brought brought(String id) {
        return imports.find(id).orElseThrow(() -> Problem.unknown("file " + id));
    }

    /** The guessed columns, changed as asked: by their place in the file, else by name. */
    private List<ImportColumn> columns(Brought brought, @Nullable List<FileColumn> asked) {
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
            columns.set(at, change.of(columns.get(at), this::table));
        }
        return columns;
    }

    /** The form's people write as the file does. */
    private static Conventions conventions(List<ImportColumn> columns) {
        var order =
                columns.stream().flatMap(column -> column.dayOrder().stream()).findFirst();
        var sign = columns.stream()
                .filter(column -> column.column().type() == ColumnType.DECIMAL)
                .map(column -> column.signs().sign())
                .findFirst();
        return new Conventions(order.orElse(DayOrder.MONTH_FIRST), sign.orElse(DecimalSign.POINT));
    }
}
