package weft.server.form;

import static weft.server.Versions.etag;
import static weft.server.Versions.seen;

import io.swagger.v3.oas.annotations.media.Schema;
import java.net.URI;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import weft.core.value.Conventions;
import weft.server.Problems.Problem;
import weft.store.form.FormJson;
import weft.store.form.FormSchema;
import weft.store.form.Forms;

/** Form documents: made from tables, worked on, published. */
@RestController
class FormsApi {

    private final Forms forms;
    private final PreparedForms prepared;

    FormsApi(Forms forms, PreparedForms prepared) {
        this.forms = forms;
        this.prepared = prepared;
    }

    record NewForm(String table) {}

    record FormListed(
            String id,
            String title,
            String table,
            String tableTitle,
            @Schema(types = {"integer", "null"}) Integer published) {}

    record Version(int version) {}

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
                        form.published().orElse(null)))
                .toList();
    }

    @GetMapping("/api/forms/{form}")
    ResponseEntity<String> workingCopy(@PathVariable String form) {
        return answer(ResponseEntity.ok(), forms.workingCopy(form).orElseThrow(() -> Problem.unknown("form " + form)));
    }

    @PutMapping("/api/forms/{form}")
    ResponseEntity<String> change(
            @PathVariable String form,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestBody JsonNode document) {
        var now = forms.workingCopy(form)
                .orElseThrow(() -> Problem.unknown("form " + form))
                .form();
        int revision = seen(ifMatch);
        var changed = FormJson.read(FormSchema.passed(document.toString()));
        if (!changed.id().equals(form) || !changed.table().equals(now.table())) {
            throw Problem.malformed("A form keeps its id and its table: " + form + " on " + now.table() + ".");
        }
        return answer(ResponseEntity.ok(), forms.change(revision, changed));
    }

    @PostMapping("/api/forms/{form}/publish")
    Version publish(@PathVariable String form) {
        int version = forms.publish(form).orElseThrow(() -> Problem.unknown("form " + form));
        prepared.forget();
        return new Version(version);
    }

    @GetMapping("/api/forms/{form}/published")
    ResponseEntity<String> published(@PathVariable String form) {
        return answer(ResponseEntity.ok(), prepared.published(form).document());
    }

    @GetMapping(path = "/api/schemas/form.json", produces = MediaType.APPLICATION_JSON_VALUE)
    String schema() {
        return FormSchema.published();
    }

    private static ResponseEntity<String> answer(ResponseEntity.BodyBuilder answer, Forms.Document document) {
        return answer.contentType(MediaType.APPLICATION_JSON)
                .eTag(etag(document.revision()))
                .body(document.json());
    }
}
