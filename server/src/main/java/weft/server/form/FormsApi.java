package weft.server.form;

import java.net.URI;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.node.ObjectNode;
import weft.core.door.Person;
import weft.core.form.Fray;
import weft.core.value.Conventions;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.server.people.AuditTrail;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.FormSchema;
import weft.store.form.Forms;
import weft.store.form.ReadyForm;
import weft.store.people.Audit.Deed;
import weft.store.table.StoredTable;

/** Form documents: made from tables, worked on, published. */
@RestController
public class FormsApi {

    private final Forms forms;
    private final Definitions definitions;
    private final AuditTrail told;
    private final Clock clock;

    FormsApi(Forms forms, Definitions definitions, AuditTrail told, Clock clock) {
        this.forms = forms;
        this.definitions = definitions;
        this.told = told;
        this.clock = clock;
    }

    record NewForm(String table) {}

    /**
     * A form.
     *
     * @param published its latest published version
     * @param lost the labels of the published fields that are hidden because their columns are gone
     */
    record FormListed(
            String id,
            String title,
            String table,
            String tableTitle,
            @Nullable Integer published,
            boolean archived,
            List<String> lost) {}

    record Version(int version) {}

    record Archived(boolean archived) {}

    /** A form document from elsewhere, for that table. */
    record FileJson(String table, ObjectNode file) {}

    /** A field of a brought form whose column the table does not have. */
    record Untied(String label, String column) {}

    record Brought(String form, String title, List<Untied> untied) {}

    private StoredTable table(String name) {
        return definitions.table(name).orElseThrow(() -> Problem.unknown("table " + name));
    }

    @PostMapping("/api/forms")
    ResponseEntity<String> make(@RequestBody NewForm asked) {
        var document = forms.make(table(asked.table()), Conventions.DEFAULT);
        return answer(
                ResponseEntity.created(
                        URI.create("/api/forms/" + document.form().id())),
                document);
    }

    @GetMapping("/api/forms")
    List<FormListed> list() {
        var lost = forms.lost();
        return forms.list().stream()
                .map(form -> new FormListed(
                        form.id(),
                        form.title(),
                        form.table(),
                        form.tableTitle(),
                        form.published().orElse(null),
                        form.archived(),
                        lost.getOrDefault(form.id(), List.of())))
                .toList();
    }

    @GetMapping("/api/forms/{form}")
    ResponseEntity<String> workingCopy(@Copy ReadyForm form) {
        return answer(ResponseEntity.ok(), form.document());
    }

    @PutMapping("/api/forms/{form}")
    ResponseEntity<String> change(
            @PathVariable String form, Seen seen, Person person, @RequestBody ObjectNode document) {
        var table = forms.tableOf(form).orElseThrow(() -> Problem.unknown("form " + form));
        int revision = seen.version();
        var changed = FormDocument.read(document);
        if (!changed.form().id().equals(form) || !changed.form().table().equals(table)) {
            throw Problem.malformed("A form keeps its id and its table: " + form + " on " + table + ".");
        }
        return answer(ResponseEntity.ok(), forms.edit(revision, changed, person.name()));
    }

    /**
     * Publishes the working copy. With frays that would bite it is refused, unless the request says that they are known:
     * {@code ?despite=frays}.
     */
    @PostMapping("/api/forms/{form}/publish")
    Version publish(
            @Copy ReadyForm form, @RequestParam(required = false) @Nullable String despite, Seen seen, Person person) {
        var biting = form.frays(LocalDateTime.now(clock)).stream()
                .filter(Fray::bites)
                .toList();
        if (!biting.isEmpty() && !"frays".equals(despite)) {
            throw Problem.refused(biting.getFirst().sentence() + " Mend it, or publish in spite of it.");
        }
        var id = form.form().id();
        var version = new Version(
                seen.said()
                        ? forms.publish(id, seen.version(), person.name())
                        : forms.publish(id, person.name()).orElseThrow(() -> Problem.unknown("form " + id)));
        told.of(Deed.FORM_PUBLISHED, id + ", version " + version.version());
        return version;
    }

    @PutMapping("/api/forms/{form}/archived")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archive(@PathVariable String form, @RequestBody Archived asked) {
        if (!forms.archive(form, asked.archived())) {
            throw Problem.unknown("form " + form);
        }
    }

    /** A form of its own that begins as the working copy of this one. */
    @PostMapping("/api/forms/{form}/copy")
    ResponseEntity<String> copy(@Copy ReadyForm form) {
        var copied = form.form();
        return answer(
                ResponseEntity.status(HttpStatus.CREATED),
                forms.bring(form.table(), copied.named(copied.id(), copied.title() + " copy")));
    }

    /** The working copy as a file for elsewhere. */
    @GetMapping(path = "/api/forms/{form}/file", produces = MediaType.APPLICATION_JSON_VALUE)
    ResponseEntity<String> file(@Copy ReadyForm form) {
        return ResponseEntity.ok()
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(form.form().id() + ".weft-form.json")
                                .build()
                                .toString())
                .body(form.document().json());
    }

    /** Makes a form of a file; its threads are tied to the table's columns of the same names. */
    @PostMapping("/api/forms/brought")
    ResponseEntity<Brought> bring(@RequestBody FileJson asked) {
        var table = table(asked.table());
        var form = FormDocument.read(asked.file()).form().on(asked.table());
        var untied = form.fields()
                .filter(field -> table.definition().column(field.column()).isEmpty())
                .map(field -> new Untied(field.label(), field.column()))
                .toList();
        var kept = forms.bring(table, form.following(table.definition()));
        return ResponseEntity.status(HttpStatus.CREATED)
                .body(new Brought(kept.form().id(), kept.form().title(), untied));
    }

    @GetMapping(path = "/api/schemas/form.json", produces = MediaType.APPLICATION_JSON_VALUE)
    String schema() {
        return FormSchema.published();
    }

    /** A form document with its entity tag. A renamed column changes a document that is of the same revision still. */
    public static ResponseEntity<String> answer(ResponseEntity.BodyBuilder answer, Forms.Document document) {
        return answer.contentType(MediaType.APPLICATION_JSON)
                .cacheControl(CacheControl.noStore())
                .eTag(Seen.etag(document.revision()))
                .body(document.json());
    }
}
