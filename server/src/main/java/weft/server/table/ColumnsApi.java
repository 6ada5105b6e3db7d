package weft.server.table;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.form.TableUse;
import weft.core.table.Column;
import weft.core.table.Names;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.server.http.Problem;
import weft.server.people.AuditTrail;
import weft.store.form.Forms;
import weft.store.people.Audit.Deed;
import weft.store.table.Columns;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** What tables are made of, changed: columns added, renamed, retyped, given rules, removed; tables renamed and deleted. */
@RestController
class ColumnsApi {

    private final Columns columns;
    private final Tables tables;
    private final Forms forms;
    private final AuditTrail told;

    ColumnsApi(Columns columns, Tables tables, Forms forms, AuditTrail told) {
        this.columns = columns;
        this.tables = tables;
        this.forms = forms;
        this.told = told;
    }

    /** How the stored values would bear a change: how many would not fit, and some of them. */
    record CheckJson(long unfit, List<ExampleJson> examples) {}

    record ExampleJson(long row, String value, String message) {}

    /**
     * What uses a table.
     *
     * @param forms the titles of its forms
     * @param links the links of other tables that lead to it, as people read them
     * @param uses what published forms on other tables do with it
     */
    record DependentsJson(long records, List<String> forms, List<String> links, List<UseJson> uses) {}

    /** What a published form on another table does with it. */
    record UseJson(String form, TableUse.What what) {}

    record TableChange(@Nullable String title, Table.@Nullable Placement placement) {}

    @PostMapping("/api/tables/{table}/columns")
    @ResponseStatus(HttpStatus.CREATED)
    ColumnJson add(StoredTable table, @RequestBody ColumnAsked asked) {
        var taken = new HashSet<String>();
        table.definition().columns().forEach(column -> {
            taken.add(column.name());
            taken.addAll(column.former());
        });
        var proposal = asked.proposal(OptionalInt.empty());
        var column = TableProposal.checked(
                proposal.name().isBlank() ? proposal.named(Names.name(proposal.title(), 1, taken)) : proposal,
                this::table);
        columns.add(table.definition().name(), List.of(column));
        return ColumnJson.of(column);
    }

    @PutMapping("/api/tables/{table}/columns/{column}")
    ColumnJson change(StoredTable table, @PathVariable String column, @RequestBody ColumnAsked asked) {
        var to = asked(table, column, asked);
        columns.change(table.definition().name(), column, to, asked.written());
        return ColumnJson.of(to);
    }

    /** How the stored values would bear the change. Nothing is changed. */
    @PostMapping("/api/tables/{table}/columns/{column}/check")
    CheckJson check(StoredTable table, @PathVariable String column, @RequestBody ColumnAsked asked) {
        var check = columns.check(table.definition().name(), column, asked(table, column, asked), asked.written());
        return new CheckJson(
                check.unfit(),
                check.examples().stream()
                        .map(each -> new ExampleJson(each.row(), each.value(), each.message()))
                        .toList());
    }

    private Column asked(StoredTable table, String column, ColumnAsked asked) {
        var now = table.definition().column(column).orElseThrow(() -> Problem.unknown("column " + column));
        var proposal = asked.proposal(now.usualLength());
        return TableProposal.checked(proposal.name().isBlank() ? proposal.named(now.name()) : proposal, this::table);
    }

    private Optional<Table> table(String name) {
        return tables.find(name).map(StoredTable::definition);
    }

    /** The published forms, by title, in which something shows a column or speaks of it. */
    record ColumnUsed(List<String> forms) {}

    @GetMapping("/api/tables/{table}/columns/{column}/used")
    ColumnUsed used(StoredTable table, @PathVariable String column) {
        return new ColumnUsed(forms.using(table.definition().name(), column));
    }

    @DeleteMapping("/api/tables/{table}/columns/{column}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(StoredTable table, @PathVariable String column) {
        var _ = table.definition().column(column).orElseThrow(() -> Problem.unknown("column " + column));
        columns.remove(table.definition().name(), column);
    }

    @PutMapping("/api/tables/{table}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(StoredTable table, @RequestBody TableChange asked) {
        var now = table.definition();
        var title = asked.title() == null || asked.title().isBlank()
                ? now.title()
                : asked.title().strip();
        var placement = asked.placement() == null ? now.placement() : asked.placement();
        columns.change(table.definition().name(), each -> new Table(each.name(), title, each.columns(), placement));
    }

    @GetMapping("/api/tables/{table}/dependents")
    DependentsJson dependents(StoredTable table) {
        var name = table.definition().name();
        var dependents = columns.dependents(name);
        return new DependentsJson(
                dependents.records(),
                dependents.forms(),
                dependents.links(),
                forms.usesOf(name).stream()
                        .map(use -> new UseJson(use.form(), use.what()))
                        .toList());
    }

    /**
     * Deletes a table with its records, history and forms, or lets go of one that was adopted, whose records stay where they are; the
     * request names it once more, so that it is no slip.
     */
    @DeleteMapping("/api/tables/{table}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(StoredTable table, @RequestParam(required = false) @Nullable String named) {
        var title = table.definition().title();
        if (!title.equals(named)) {
            throw Problem.malformed("Say the title of the table to delete it: ?named=" + title + ".");
        }
        columns.delete(table.definition().name());
        told.of(
                table.adopted().isPresent() ? Deed.TABLE_LET_GO : Deed.TABLE_DELETED,
                title + " (" + table.definition().name() + ")");
    }
}
