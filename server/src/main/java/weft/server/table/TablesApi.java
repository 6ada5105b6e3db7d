package weft.server.table;

import io.swagger.v3.oas.annotations.media.Schema;
import java.net.URI;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.table.Column;
import weft.core.table.TableProposal;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.value.Value;
import weft.server.form.PreparedForms;
import weft.server.record.RecordPage;
import weft.store.find.Cursor;
import weft.store.find.Views;
import weft.store.record.Records;
import weft.store.record.ValuesJson;
import weft.store.table.Tables;

/** Tables: made, listed, looked into. */
@RestController
public class TablesApi {

    private final Tables tables;
    private final Records records;
    private final Views views;
    private final PreparedForms known;

    TablesApi(Tables tables, Records records, Views views, PreparedForms known) {
        this.tables = tables;
        this.records = records;
        this.views = views;
        this.known = known;
    }

    /**
     * A column as a request describes it; only its title or its name must be there.
     *
     * @param from for an import, its place in the file from 0
     * @param dayOrder for an import, the order of its dates of digits
     */
    public record ColumnJson(
            String name,
            String title,
            String type,
            Boolean required,
            Boolean unique,
            @Schema(types = {"integer", "null"}) Integer scale,
            Object min,
            Object max,
            List<String> choices,
            @Schema(types = {"integer", "null"}) Integer from,
            @Schema(types = {"string", "null"}) String dayOrder) {

        /** The column in the API's shape. */
        public static ColumnJson of(Column column) {
            return new ColumnJson(
                    column.name(),
                    column.title(),
                    column.type().wire(),
                    column.required(),
                    column.unique(),
                    column.scale().isPresent() ? column.scale().getAsInt() : null,
                    wire(column.min()),
                    wire(column.max()),
                    column.choices(),
                    null,
                    null);
        }

        private static Object wire(Optional<Value> value) {
            return value.map(ValuesJson::of).orElse(null);
        }

        /** The proposal of the column, {@code length} characters usually at most. */
        public ColumnProposal proposal(OptionalInt length) {
            return new ColumnProposal(
                    text(name),
                    text(title),
                    type == null ? "text" : type,
                    Boolean.TRUE.equals(required),
                    Boolean.TRUE.equals(unique),
                    scale == null ? OptionalInt.empty() : OptionalInt.of(scale),
                    bound(min),
                    bound(max),
                    choices == null ? List.of() : choices,
                    length);
        }

        private static Optional<String> bound(Object bound) {
            return Optional.ofNullable(bound).map(Object::toString);
        }

        private static String text(String text) {
            return text == null ? "" : text;
        }
    }

    record NewTable(String name, String title, List<ColumnJson> columns, String placement) {}

    /**
     * A table.
     *
     * @param rows how many records it holds
     * @param lastRow the highest row number ever given
     * @param nextRow where the next new entry goes
     */
    record TableJson(
            String name,
            String title,
            String placement,
            long rows,
            long lastRow,
            long nextRow,
            List<ColumnJson> columns) {}

    record TableListed(String name, String title, long rows) {}

    @PostMapping("/api/tables")
    ResponseEntity<TableJson> make(@RequestBody NewTable asked) {
        var columns = asked.columns() == null ? List.<ColumnJson>of() : asked.columns();
        var table = new TableProposal(
                        ColumnJson.text(asked.name()),
                        ColumnJson.text(asked.title()),
                        columns.stream()
                                .map(column -> column.proposal(OptionalInt.empty()))
                                .toList(),
                        asked.placement() == null ? "after-last" : asked.placement())
                .named()
                .checked();
        tables.make(table);
        return ResponseEntity.created(URI.create("/api/tables/" + table.name())).body(table(table.name()));
    }

    @GetMapping("/api/tables")
    List<TableListed> list() {
        return tables.list().stream()
                .map(table -> new TableListed(table.name(), table.title(), table.rows()))
                .toList();
    }

    @GetMapping("/api/tables/{table}")
    TableJson table(@PathVariable String table) {
        var stored = known.table(table);
        var definition = stored.definition();
        return new TableJson(
                definition.name(),
                definition.title(),
                definition.placement().wire(),
                tables.rows(stored),
                tables.lastRow(stored),
                records.nextRow(stored),
                definition.columns().stream().map(ColumnJson::of).toList());
    }

    /** The records by row; {@code after} is the row number after which the page begins. */
    @GetMapping("/api/tables/{table}/records")
    RecordPage records(
            @PathVariable String table,
            @RequestParam(required = false) Long after,
            @RequestParam(defaultValue = "50") int limit) {
        RecordPage.check(limit);
        var place = Optional.ofNullable(after).map(row -> Cursor.afterRow(row).wire());
        return RecordPage.of(views.page(known.table(table), View.all(Sort.BY_ROW), place, limit));
    }
}
