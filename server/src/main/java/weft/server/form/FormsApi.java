package weft.server.form;

import static weft.server.Versions.etag;
import static weft.server.Versions.seen;

import io.swagger.v3.oas.annotations.media.Schema;
import java.net.URI;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.List;
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
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import weft.core.form.Fray;
import weft.core.value.Conventions;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.store.form.FormJson;
import weft.store.form.FormSchema;
import weft.store.form.Forms;

/** Form documents: made from tables, worked on, published. */
@RestController
class FormsApi {

    private final Forms forms;
    private final PreparedForms prepared;
    private final Clock clock;

    FormsApi(Forms forms, PreparedForms prepared, Clock clock) {
        this.forms = forms;
        this.prepared = prepared;
        this.clock = clock;
    }

    record NewForm(String table) {}

    record FormListed(
            String id,
            String title,
            String table,
            String tableTitle,
            @Schema(types = {"integer", "null"}) Integer published,
            boolean archived) {}

    record Version(int version) {}

    /** A form from nothing and its table. */
    record FormBegun(String id, String table) {}

    record Archived(boolean archived) {}

    record FileJson(String table, JsonNode file) {}

    /** A field of a brought form whose column the table does not have. */
    record Untied(String label, String column) {}

    record Brought(String form, String title, List<Untied> untied) {}

    @PostMapping("/api/forms")
    ResponseEntity<String> make(@RequestBody NewForm asked) {
        if (asked.table() == null) {
            throw Problem.malformed("Say which table the form is for: {\"table\": \"samples\"}.");
        }
        var document = forms.make(prepared.table(asked.table()), Conventions.DEFAULT);
        return answer(
                ResponseEntity.created(
                        URI.create("/api/forms/" + document.form().id())),
                document);
    }

    @GetMapping("/api/forms")
    List<FormListed> list() {
        return forms.list().stream()
                .map(form -> new FormListed(
                        form.id(),
                        form.title(),
                        form.table(),
                        form.tableTitle(),
                        form.published().orElse(null),
                        form.archived()))
                .toList();
    }

    @GetMapping("/api/forms/{form}")
    ResponseEntity<String> workingCopy(@PathVariable String form) {
        return answer(ResponseEntity.ok(), workingCopy(forms, form));
    }

    @PutMapping("/api/forms/{form}")
    ResponseEntity<String> change(
            @PathVariable String form,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody JsonNode document) {
        var now = workingCopy(forms, form).form();
        int revision = seen(ifMatch);
        var changed = FormJson.read(FormSchema.passed(document.toString()));
        if (!changed.id().equals(form) || !changed.table().equals(now.table())) {
            throw Problem.malformed("A form keeps its id and its table: " + form + " on " + now.table() + ".");
        }
        return answer(ResponseEntity.ok(), forms.change(revision, changed, Who.of(person)));
    }

    /**
     * Publishes the working copy. With frays that would bite it is refused, unless the request says that they are known:
     * {@code ?despite=frays}.
     */
    @PostMapping("/api/forms/{form}/publish")
    Version publish(
            @PathVariable String form,
            @RequestParam(required = false) String despite,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person) {
        var draft = prepared.workingCopy(form);
        var biting = draft.frays(LocalDateTime.now(clock)).stream()
                .filter(Fray::bites)
                .toList();
        if (!biting.isEmpty() && !"frays".equals(despite)) {
            throw new Problem(
                    HttpStatus.UNPROCESSABLE_CONTENT,
                    biting.getFirst().sentence() + " Mend it, or publish in spite of it.");
        }
        int version = ifMatch == null
                ? forms.publish(form, Who.of(person)).orElseThrow(() -> Problem.unknown("form " + form))
                : forms.publish(form, seen(ifMatch), Who.of(person));
        prepared.forget();
        return new Version(version);
    }

    @PutMapping("/api/forms/{form}/archived")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void archive(@PathVariable String form, @RequestBody Archived asked) {
        if (!forms.archive(form, asked.archived())) {
            throw Problem.unknown("form " + form);
        }
        prepared.forget();
    }

    /** A form of its own that begins as the working copy of this one. */
    @PostMapping("/api/forms/{form}/copy")
    ResponseEntity<String> copy(@PathVariable String form) {
        var draft = prepared.workingCopy(form);
        var title = draft.form().title() + " copy";
        return answer(
                ResponseEntity.status(HttpStatus.CREATED),
                forms.bring(draft.table(), draft.form().named(form, title)));
    }

    /** The working copy as a file for elsewhere. */
    @GetMapping(path = "/api/forms/{form}/file", produces = MediaType.APPLICATION_JSON_VALUE)
    ResponseEntity<String> file(@PathVariable String form) {
        return ResponseEntity.ok()
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(form + ".weft-form.json")
                                .build()
                                .toString())
                .body(workingCopy(forms, form).json());
    }

    /** Makes a form of a file; its threads are tied to the table's columns of the same names. */
    @PostMapping("/api/forms/brought")
    ResponseEntity<Brought> bring(@RequestBody FileJson asked) {
        if (asked.table() == null || asked.file() == null) {
            throw Problem.malformed("Send the table and the file: {\"table\": \"samples\", \"file\": {…}}.");
        }
        var table = prepared.table(asked.table());
        var form = FormJson.read(FormSchema.passed(asked.file().toString())).on(asked.table());
        var untied = form.fields()
                .filter(field -> table.definition().column(field.column()).isEmpty())
                .map(field -> new Untied(field.label(), field.column()))
                .toList();
        var kept = forms.bring(table, form.following(table.definition()));
        return ResponseEntity.status(HttpStatus.CREATED)
                .body(new Brought(kept.form().id(), kept.form().title(), untied));
    }

    static Forms.Document workingCopy(Forms forms, String form) {
        return forms.workingCopy(form).orElseThrow(() -> Problem.unknown("form " + form));
    }

    @GetMapping("/api/forms/{form}/published")
    ResponseEntity<String> published(@PathVariable String form) {
        return answer(ResponseEntity.ok(), prepared.published(form).document());
    }

    @GetMapping(path = "/api/schemas/form.json", produces = MediaType.APPLICATION_JSON_VALUE)
    String schema() {
        return FormSchema.published();
    }

    static ResponseEntity<String> answer(ResponseEntity.BodyBuilder answer, Forms.Document document) {
        // A renamed column changes a document that is of the same revision still.
        return answer.contentType(MediaType.APPLICATION_JSON)
                .cacheControl(CacheControl.noStore())
                .eTag(etag(document.revision()))
                .body(document.json());
    }
}
