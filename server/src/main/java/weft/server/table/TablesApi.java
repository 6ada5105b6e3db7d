package weft.server.table;

import java.net.URI;
import java.util.List;
import java.util.Objects;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Shown;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.server.door.Needs;
import weft.server.record.RecordPage;
import weft.store.door.Ways.Way;
import weft.store.find.Views;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Tables: made, listed, looked into. */
@RestController
class TablesApi {

    private final Tables tables;
    private final Records records;
    private final Views views;

    TablesApi(Tables tables, Records records, Views views) {
        this.tables = tables;
        this.records = records;
        this.views = views;
    }

    /** A table to be made; only its title or its name must be there. */
    record NewTable(
            @Nullable String name,
            @Nullable String title,
            @Nullable List<ColumnAsked> columns,
            Table.@Nullable Placement placement) {}

    /**
     * A table.
     *
     * @param rows how many records it holds
     * @param lastRow the highest row number ever given
     * @param nextRow where the next new entry goes
     * @param adopted the schema and name of the table that it is, if it was not made here
     */
    record TableJson(
            String name,
            String title,
            Table.Placement placement,
            long rows,
            long lastRow,
            long nextRow,
            @Nullable String adopted,
            List<ColumnJson> columns) {}

    record TableListed(String name, String title, long rows) {}

    @PostMapping("/api/tables")
    ResponseEntity<TableJson> make(@RequestBody NewTable asked) {
        var columns = asked.columns() == null ? List.<ColumnAsked>of() : asked.columns();
        var table = new TableProposal(
                        Objects.requireNonNullElse(asked.name(), ""),
                        Objects.requireNonNullElse(asked.title(), ""),
                        columns.stream()
                                .map(column -> column.proposal(OptionalInt.empty()))
                                .toList(),
                        asked.placement() == null ? Table.Placement.AFTER_LAST : asked.placement())
                .named()
                .checked(name -> tables.find(name).map(StoredTable::definition));
        return ResponseEntity.created(URI.create("/api/tables/" + table.name())).body(table(tables.make(table)));
    }

    @GetMapping("/api/tables")
    List<TableListed> list() {
        return tables.list().stream()
                .map(table -> new TableListed(table.name(), table.title(), table.rows()))
                .toList();
    }

    @GetMapping("/api/tables/{table}")
    TableJson table(StoredTable table) {
        var definition = table.definition();
        return new TableJson(
                definition.name(),
                definition.title(),
                definition.placement(),
                tables.rows(table),
                tables.lastRow(table),
                records.nextRow(table),
                table.adopted()
                        .map(adopted -> adopted.schema() + "." + adopted.name())
                        .orElse(null),
                definition.columns().stream().map(ColumnJson::of).toList());
    }

    /**
     * A table as it is seen by a door: the columns that are sent, and how many rows there are where every record is in view.
     *
     * @param rows how many records it holds; none where not all are in view
     * @param lastRow the highest row number ever given; none likewise
     * @param nextRow where the next new entry goes; none likewise
     */
    record SeenTableJson(
            String name,
            String title,
            List<ColumnJson> columns,
            @Nullable Long rows,
            @Nullable Long lastRow,
            @Nullable Long nextRow) {}

    @GetMapping("/api/doors/{door}/table")
    @Needs
    SeenTableJson tableByDoor(Way door) {
        var definition = door.shown().seen().definition();
        var whole = door.saving().table();
        boolean all = door.pass().seesAll();
        return new SeenTableJson(
                definition.name(),
                definition.title(),
                definition.columns().stream().map(ColumnJson::of).toList(),
                all ? tables.rows(whole) : null,
                all ? tables.lastRow(whole) : null,
                all ? records.nextRow(whole) : null);
    }

    /** The records by row; {@code after} is the row number after which the page begins, or where the last page led on to. */
    @GetMapping("/api/tables/{table}/records")
    RecordPage records(
            StoredTable table,
            @RequestParam(required = false) @Nullable String after,
            @RequestParam(defaultValue = "50") int limit) {
        RecordPage.check(limit);
        return RecordPage.of(
                views.page(SeenTable.all(table), View.all(Sort.BY_ROW), RecordPage.after(after), limit), Shown::whole);
    }
}
