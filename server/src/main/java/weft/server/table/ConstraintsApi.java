package weft.server.table;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.table.Constraint;
import weft.server.Problems.Problem;
import weft.server.form.PreparedForms;
import weft.store.table.Constraints;

/** What must hold between the records of a table, whoever writes: nothing twice, no times that overlap. */
@RestController
class ConstraintsApi {

    private final Constraints constraints;
    private final PreparedForms known;

    ConstraintsApi(Constraints constraints, PreparedForms known) {
        this.constraints = constraints;
        this.known = known;
    }

    /**
     * A constraint.
     *
     * @param id names it within its table; given when it is made
     * @param kind "unique" over several columns, or "overlap"
     * @param columns those that are alike in records that collide
     * @param from for overlap, the column in which a time begins; else none
     * @param to for overlap, the column in which it ends, not included; else none
     * @param message the builder's own sentence, or empty
     */
    record ConstraintJson(
            @Schema(types = {"string", "null"}) String id,
            String kind,
            List<String> columns,
            @Schema(types = {"string", "null"}) String from,
            @Schema(types = {"string", "null"}) String to,
            @Schema(types = {"string", "null"}) String message) {

        static ConstraintJson of(Constraint constraint) {
            return switch (constraint) {
                case Constraint.Unique(var id, var columns, var message) ->
                    new ConstraintJson(id, "unique", columns, null, null, message);
                case Constraint.NoOverlap(var id, var same, var from, var to, var message) ->
                    new ConstraintJson(id, "overlap", same, from, to, message);
            };
        }

        Constraint asked() {
            var alike = columns == null ? List.<String>of() : columns;
            var words = message == null ? "" : message.strip();
            return switch (kind == null ? "" : kind) {
                case "unique" -> new Constraint.Unique("", alike, words);
                case "overlap" ->
                    new Constraint.NoOverlap("", alike, from == null ? "" : from, to == null ? "" : to, words);
                default -> throw Problem.malformed("A check between records is unique or overlap.");
            };
        }
    }

    /** How many stored records break it, and the rows of some. */
    record BrokenJson(long broken, List<Long> rows) {}

    @GetMapping("/api/tables/{table}/constraints")
    List<ConstraintJson> all(@PathVariable String table) {
        return known.table(table).definition().constraints().stream()
                .map(ConstraintJson::of)
                .toList();
    }

    @PostMapping("/api/tables/{table}/constraints")
    @ResponseStatus(HttpStatus.CREATED)
    List<ConstraintJson> add(@PathVariable String table, @RequestBody ConstraintJson asked) {
        constraints.add(known.table(table), asked.asked());
        known.forget();
        return all(table);
    }

    /** How the stored records would bear it. Nothing is changed. */
    @PostMapping("/api/tables/{table}/constraints/check")
    BrokenJson check(@PathVariable String table, @RequestBody ConstraintJson asked) {
        var check = constraints.check(known.table(table), asked.asked());
        return new BrokenJson(check.broken(), check.rows());
    }

    @DeleteMapping("/api/tables/{table}/constraints/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable String table, @PathVariable String id) {
        var stored = known.table(table);
        if (stored.definition().constraints().stream()
                .noneMatch(each -> each.id().equals(id))) {
            throw Problem.unknown("check " + id + " on this table");
        }
        constraints.remove(stored, id);
        known.forget();
    }
}
