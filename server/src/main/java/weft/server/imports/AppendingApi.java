package weft.server.imports;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Value;
import weft.server.entry.FindingJson;
import weft.server.http.Problem;
import weft.server.imports.ImportReport.MisfitJson;
import weft.store.imports.Goes;
import weft.store.imports.Imports;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Into;
import weft.store.imports.Into.Came;
import weft.store.imports.Into.Doubles;
import weft.store.record.ChangeSets;
import weft.store.table.StoredTable;

/** Rows of a file brought into a table that exists: rehearsed, brought in, and taken back. */
@RestController
class AppendingApi {

    private final Imports imports;
    private final ChangeSets changes;

    AppendingApi(Imports imports, ChangeSets changes) {
        this.imports = imports;
        this.changes = changes;
    }

    /**
     * A column of the file.
     *
     * @param from its place in the file, from 0
     * @param into the name of the table's column that it goes into; left out where it goes into none
     * @param dayOrder how its dates are written, where it could be read two ways
     * @param decimalSign likewise of its numbers
     */
    record GoesAsked(
            int from,
            @Nullable String into,
            @Nullable DayOrder dayOrder,
            @Nullable DecimalSign decimalSign) {

        Goes goes() {
            return new Goes(
                    from, Optional.ofNullable(into), Optional.ofNullable(dayOrder), Optional.ofNullable(decimalSign));
        }
    }

    /**
     * How the rows go into the table.
     *
     * @param columns which column goes where; those of the same name, when it is left out
     * @param key the columns by which a row is known to be there already; when left out, what no two records share
     * @param doubles what is done with such a row; skipped where it is not said
     * @param answered how many of the rows that are asked about are brought in all the same; none where it is not said
     */
    record AppendAsked(
            @Nullable List<GoesAsked> columns,
            @Nullable List<String> key,
            @Nullable Doubles doubles,
            @Nullable Integer answered) {}

    /** What is asked about a line of the file. */
    record AskedLine(long line, FindingJson finding) {}

    /**
     * The rows that the rules of the table's forms would ask about, were they keyed.
     *
     * @param many how many
     * @param partly whether not all of them were held against the rules, since they are very many
     * @param first the first of them, by line
     */
    record AskedJson(int many, boolean partly, List<AskedLine> first) {
        static AskedJson of(Into.Asked asked) {
            return new AskedJson(
                    asked.many(),
                    asked.partly(),
                    asked.first().stream()
                            .map(each -> new AskedLine(each.line(), FindingJson.whole(each.finding())))
                            .toList());
        }
    }

    /** A column of the file, where it goes, and what does not fit there. */
    record GoesJson(
            int from,
            String title,
            @Nullable String into,
            @Nullable DayOrder dayOrder,
            boolean askDayOrder,
            @Nullable DecimalSign decimalSign,
            boolean askDecimalSign,
            long misfitCount,
            List<MisfitJson> misfits) {}

    /** A row that is there already: its line in the file, its row, and whether the record would be another one by it. */
    record DoubleJson(long line, long row, boolean changes) {}

    /**
     * What it comes to. Nothing was written.
     *
     * @param rows how many rows the file has
     * @param added how many are new
     * @param doubles how many are there already
     * @param changing how many of those say something else than the record
     * @param repeated how many come again in the file itself
     * @param faults what is in the way, in sentences, besides cells that don't fit
     * @param asked what is asked about; nothing where something is in the way
     * @param beyond cells that stand beyond the headings
     * @param preview the first rows as they would be stored, by column
     */
    record AppendReport(
            String table,
            String title,
            long rows,
            long added,
            long doubles,
            long changing,
            long repeated,
            List<DoubleJson> examples,
            List<GoesJson> columns,
            List<String> key,
            Doubles how,
            List<String> faults,
            AskedJson asked,
            List<MisfitJson> beyond,
            List<Map<String, Value>> preview) {}

    /** What was brought in, and the change under which it is taken back. */
    record Appended(
            long added, long replaced, long left, @Nullable Long change) {}

    record TakenAway(int records) {}

    /** What bringing the file's rows into that table comes to. */
    @PostMapping("/api/imports/{id}/into/{table}/look")
    AppendReport look(@PathVariable String id, StoredTable table, @RequestBody AppendAsked asked) {
        var brought = brought(id);
        var into = into(brought, table, asked);
        return report(brought, into, imports.rehearse(brought, into));
    }

    @PostMapping("/api/imports/{id}/into/{table}")
    @ResponseStatus(HttpStatus.CREATED)
    Appended append(@PathVariable String id, StoredTable table, Person person, @RequestBody AppendAsked asked) {
        var brought = brought(id);
        var into = into(brought, table, asked);
        var open = into.columns().stream()
                .filter(column -> column.askDayOrder() || column.askDecimalSign())
                .findFirst();
        if (open.isPresent()) {
            throw Problem.malformed("Say first how dates or numbers are written in “%s”."
                    .formatted(brought.columns().get(open.get().from()).column().title()));
        }
        var done = imports.append(brought, into, asked.answered() == null ? 0 : asked.answered(), person.name());
        return new Appended(
                done.added(), done.replaced(), done.left(), done.change().orElse(null));
    }

    /** Removes again what was added, and puts back what was replaced, for as long as nobody has changed it since. */
    @PostMapping("/api/tables/{table}/changes/{id}/take-back")
    TakenAway takeBack(StoredTable table, @PathVariable long id, Person person) {
        return new TakenAway(changes.takeBack(table, id, person.name(), _ -> true)
                .orElseThrow(() -> Problem.unknown("change " + id + " of yours")));
    }

    private Brought brought(String id) {
        return imports.find(id).orElseThrow(() -> Problem.unknown("file " + id));
    }

    private static Into into(Brought brought, StoredTable table, AppendAsked asked) {
        return Goes.into(
                brought,
                table,
                Optional.ofNullable(asked.columns())
                        .map(all -> all.stream().map(GoesAsked::goes).toList()),
                Optional.ofNullable(asked.key()),
                asked.doubles() == null ? Doubles.SKIP : asked.doubles());
    }

    private static AppendReport report(Brought brought, Into into, Came came) {
        var table = into.table().definition();
        var columns = new ArrayList<GoesJson>();
        for (int from = 0; from < brought.columns().size(); from++) {
            int place = from;
            var goes =
                    into.columns().stream().filter(each -> each.from() == place).findFirst();
            var name = goes.map(each -> each.column().name());
            var column = goes.orElse(brought.columns().get(from));
            columns.add(new GoesJson(
                    from,
                    brought.columns().get(from).column().title(),
                    name.orElse(null),
                    column.dayOrder().orElse(null),
                    goes.isPresent() && column.askDayOrder(),
                    goes.isPresent() && column.askDecimalSign()
                            ? null
                            : column.signs().sign(),
                    goes.isPresent() && column.askDecimalSign(),
                    name.map(each -> came.misfitCounts().getOrDefault(each, 0L)).orElse(0L),
                    MisfitJson.of(came.misfits().stream()
                            .filter(misfit ->
                                    name.filter(misfit.column()::equals).isPresent())
                            .toList())));
        }
        return new AppendReport(
                table.name(),
                table.title(),
                came.rows(),
                came.added(),
                came.doubles(),
                came.changing(),
                came.repeated(),
                came.examples().stream()
                        .map(each -> new DoubleJson(each.line(), each.row(), each.changes()))
                        .toList(),
                columns,
                into.key(),
                into.doubles(),
                came.faults(),
                AskedJson.of(came.asked()),
                MisfitJson.of(came.misfits().stream()
                        .filter(misfit -> misfit.column().isEmpty())
                        .toList()),
                came.preview().stream().map(row -> preview(into, row)).toList());
    }

    private static Map<String, Value> preview(Into into, List<Value> row) {
        var values = new LinkedHashMap<String, Value>();
        for (int i = 0; i < row.size(); i++) {
            values.put(into.columns().get(i).column().name(), row.get(i));
        }
        return values;
    }

    @ExceptionHandler
    ProblemDetail inTheWay(Into.InTheWay way) {
        var came = way.came();
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.UNPROCESSABLE_CONTENT, why(came) + " Nothing was brought in.");
        detail.setProperty("misfits", MisfitJson.of(came.misfits()));
        detail.setProperty("asked", AskedJson.of(came.asked()));
        return detail;
    }

    private static String why(Came came) {
        if (came.misfitCount() > 0) {
            return "%,d cells do not fit their columns.".formatted(came.misfitCount());
        }
        if (!came.faults().isEmpty()) {
            return String.join(" ", came.faults());
        }
        var first = came.asked().first().getFirst();
        return "%s asked about, such as line %d: %s"
                .formatted(
                        came.asked().many() == 1
                                ? "1 row is"
                                : "%,d rows are".formatted(came.asked().many()),
                        first.line(),
                        first.finding().message());
    }

    @ExceptionHandler
    ProblemDetail loadedOnce(Imports.LoadedOnce loaded) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.CONFLICT, "This file is loaded already, or is being loaded just now.");
    }
}
