package weft.server.table;

import java.net.URI;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.server.http.Problem;
import weft.server.people.AuditTrail;
import weft.store.adopt.Adoptions;
import weft.store.adopt.Adoptions.Preview;
import weft.store.people.Audit.Deed;

/** Tables that other programs made in the same database: which there are, what adopting one comes to, and doing it. */
@RestController
class AdoptionsApi {

    private final Adoptions adoptions;
    private final AuditTrail told;

    AdoptionsApi(Adoptions adoptions, AuditTrail told) {
        this.adoptions = adoptions;
        this.told = told;
    }

    /**
     * A table or view of another schema.
     *
     * @param rows about how many rows it has, if the database has counted them
     * @param table the name of the table here that it was adopted as
     */
    record AdoptableJson(
            String schema,
            String name,
            boolean view,
            @Nullable Long rows,
            @Nullable String table) {}

    /** A column there, with its type there, and what it becomes here; of a link there can be several. */
    record BecomesJson(List<String> base, List<String> type, ColumnJson column) {}

    /** What holds there: the name of a constraint, and what it says. */
    record HeldJson(String name, String what) {}

    /**
     * What adopting a table comes to.
     *
     * @param refused why it can't be adopted, in sentences; none when it can
     * @param notes what else one should know
     * @param added what is added to the table
     * @param statements all that is done, as SQL
     * @param lock for about how many seconds nobody can use the table; none for a view
     * @param keys by which columns the records of a view can be told apart
     * @param key by which they are, unless another one is named
     */
    record AdoptionJson(
            String schema,
            String name,
            boolean view,
            long rows,
            String title,
            List<BecomesJson> columns,
            List<HeldJson> held,
            List<String> refused,
            List<String> notes,
            List<String> added,
            List<String> statements,
            @Nullable Double lock,
            List<String> keys,
            @Nullable String key) {}

    /** How it is adopted; without a title it is called as it is. */
    record Adopting(@Nullable String title, @Nullable String key) {}

    /** The table that it is now, its form, and for how many seconds it was locked. */
    record AdoptedJson(String table, String form, long rows, double locked) {}

    @GetMapping("/api/adoptable")
    List<AdoptableJson> list() {
        return adoptions.list().stream()
                .map(each -> new AdoptableJson(
                        each.schema(),
                        each.name(),
                        each.view(),
                        each.rows() < 0 ? null : each.rows(),
                        each.adopted().orElse(null)))
                .toList();
    }

    /** What adopting it comes to. Nothing is changed. */
    @GetMapping("/api/adoptable/{schema}/{name}")
    AdoptionJson preview(
            @PathVariable String schema,
            @PathVariable String name,
            @RequestParam(required = false) @Nullable String key) {
        return adoptions
                .preview(schema, name, Optional.ofNullable(key))
                .map(AdoptionsApi::json)
                .orElseThrow(() -> unknown(schema, name));
    }

    private static AdoptionJson json(Preview preview) {
        return new AdoptionJson(
                preview.schema(),
                preview.name(),
                preview.view(),
                preview.rows(),
                preview.title(),
                preview.columns().stream()
                        .map(each -> new BecomesJson(each.base(), each.type(), ColumnJson.of(each.column())))
                        .toList(),
                preview.held().stream()
                        .map(each -> new HeldJson(each.name(), each.what()))
                        .toList(),
                preview.refused(),
                preview.notes(),
                preview.added(),
                preview.statements(),
                preview.lock().map(AdoptionsApi::seconds).orElse(null),
                preview.keys(),
                preview.key().orElse(null));
    }

    private static double seconds(Duration duration) {
        return Math.round(duration.toMillis() / 100.0) / 10.0;
    }

    /** Adopts it, and makes its form. */
    @PostMapping("/api/adoptable/{schema}/{name}")
    ResponseEntity<AdoptedJson> adopt(
            @PathVariable String schema, @PathVariable String name, Person person, @RequestBody Adopting asked) {
        var title = asked.title() == null ? "" : asked.title().strip();
        var adopted = adoptions
                .adopt(schema, name, title, Optional.ofNullable(asked.key()), person.name())
                .orElseThrow(() -> unknown(schema, name));
        var table = adopted.table().definition();
        told.of(Deed.TABLE_ADOPTED, "%s (%s.%s)".formatted(table.title(), schema, name));
        return ResponseEntity.created(URI.create("/api/tables/" + table.name()))
                .body(new AdoptedJson(table.name(), adopted.form().id(), adopted.rows(), seconds(adopted.lock())));
    }

    private static Problem unknown(String schema, String name) {
        return Problem.unknown("table " + schema + "." + name);
    }
}
