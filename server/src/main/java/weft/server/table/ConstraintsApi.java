package weft.server.table;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.rule.Between;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.core.table.Constraint;
import weft.server.http.Problem;
import weft.store.table.Constraints;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** What must hold between the records of a table, whoever writes: nothing twice, no times that overlap. */
@RestController
class ConstraintsApi {

    private final Constraints constraints;
    private final Tables tables;

    ConstraintsApi(Constraints constraints, Tables tables) {
        this.constraints = constraints;
        this.tables = tables;
    }

    /** What holds: no two alike in several columns, or no two whose times overlap. */
    enum Kind {
        UNIQUE,
        OVERLAP
    }

    /**
     * A constraint.
     *
     * @param id names it within its table
     * @param columns those that are alike in records that collide
     * @param from for overlap, the column in which a time begins; else none
     * @param to for overlap, the column in which it ends, not included; else none
     * @param message the builder's own sentence, or empty
     * @param words what holds, in a sentence
     */
    record ConstraintJson(
            String id,
            Kind kind,
            List<String> columns,
            @Nullable String from,
            @Nullable String to,
            String message,
            String words) {

        static List<ConstraintJson> of(StoredTable table) {
            var sentences = new Sentences(Terms.of(table.definition()));
            return table.definition().constraints().stream()
                    .map(constraint ->
                            of(constraint, sentences.of(new Between(constraint)).text()))
                    .toList();
        }

        private static ConstraintJson of(Constraint constraint, String words) {
            return switch (constraint) {
                case Constraint.Unique(var id, var columns, var message) ->
                    new ConstraintJson(id, Kind.UNIQUE, columns, null, null, message, words);
                case Constraint.NoOverlap(var id, var same, var from, var to, var message) ->
                    new ConstraintJson(id, Kind.OVERLAP, same, from, to, message, words);
            };
        }
    }

    /** A constraint to be made, which gets an id of its own. */
    record ConstraintAsked(
            Kind kind,
            List<String> columns,
            @Nullable String from,
            @Nullable String to,
            @Nullable String message) {

        Constraint asked() {
            var words = said(message).strip();
            return switch (kind) {
                case UNIQUE -> new Constraint.Unique("", columns, words);
                case OVERLAP -> new Constraint.NoOverlap("", columns, said(from), said(to), words);
            };
        }

        private static String said(@Nullable String text) {
            return text == null ? "" : text;
        }
    }

    /** How many stored records break it, and the rows of some. */
    record BrokenJson(long broken, List<Long> rows) {}

    @GetMapping("/api/tables/{table}/constraints")
    List<ConstraintJson> all(StoredTable table) {
        return ConstraintJson.of(table);
    }

    @PostMapping("/api/tables/{table}/constraints")
    @ResponseStatus(HttpStatus.CREATED)
    List<ConstraintJson> add(StoredTable table, @RequestBody ConstraintAsked asked) {
        constraints.add(table, asked.asked());
        return ConstraintJson.of(tables.find(table.id()).orElseThrow());
    }

    /** How the stored records would bear it. Nothing is changed. */
    @PostMapping("/api/tables/{table}/constraints/check")
    BrokenJson check(StoredTable table, @RequestBody ConstraintAsked asked) {
        var check = constraints.check(table, asked.asked());
        return new BrokenJson(check.broken(), check.rows());
    }

    @DeleteMapping("/api/tables/{table}/constraints/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(StoredTable table, @PathVariable String id) {
        if (table.definition().constraints().stream()
                .noneMatch(each -> each.id().equals(id))) {
            throw Problem.unknown("check " + id + " on this table");
        }
        constraints.remove(table, id);
    }
}
