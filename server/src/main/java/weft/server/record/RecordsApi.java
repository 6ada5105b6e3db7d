package weft.server.record;

import static weft.server.Versions.etag;
import static weft.server.Versions.seen;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import weft.core.entry.Trace;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.server.form.PreparedForms.Prepared;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.record.StoredRecord;

/** Entries through a published form: assessed while typed, saved to the next free row, read, changed, deleted. */
@RestController
class RecordsApi {

    private final PreparedForms forms;
    private final Records records;
    private final Saving saving;

    RecordsApi(PreparedForms forms, Records records, Saving saving) {
        this.forms = forms;
        this.records = records;
        this.saving = saving;
    }

    record NextRow(long row) {}

    /**
     * A saved entry.
     *
     * @param then what the Desk does next; left out when there is nothing
     */
    record SavedJson(
            long id,
            long row,
            int version,
            Map<String, Object> values,
            @JsonInclude(JsonInclude.Include.NON_EMPTY) List<ThenJson> then) {
        static SavedJson of(Saving.Saved saved) {
            var record = saved.record();
            return new SavedJson(
                    record.id(), record.row(), record.version(), record.values(), ThenJson.of(saved.then()));
        }
    }

    @GetMapping("/api/forms/{form}/next-row")
    NextRow nextRow(@PathVariable String form) {
        return new NextRow(records.nextRow(forms.published(form).table()));
    }

    @PostMapping("/api/forms/{form}/assess")
    AssessmentJson assess(
            @PathVariable String form,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        return assessed(published(form, draft), draft, person);
    }

    /** As at the Desk, by the rules of the working copy. Nothing is written. */
    @PostMapping("/api/forms/{form}/bench/assess")
    AssessmentJson assessAtBench(
            @PathVariable String form,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        var prepared = forms.workingCopy(form);
        return assessed(prepared, draft.threaded(prepared), person);
    }

    private Prepared published(String form, DraftJson draft) {
        return forms.published(form, Optional.ofNullable(draft.version()));
    }

    private AssessmentJson assessed(Prepared prepared, DraftJson asked, String person) {
        var draft = saving.draft(asked.sent(prepared, saving, person));
        return AssessmentJson.of(saving.assess(prepared, draft, Trace.none()));
    }

    @PostMapping("/api/forms/{form}/records")
    ResponseEntity<SavedJson> save(
            @PathVariable String form,
            @RequestHeader(name = "Idempotency-Key", required = false) String idempotencyKey,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        var key = Optional.ofNullable(idempotencyKey).map(given -> key(given, draft.values()));
        var fresh = new DraftJson(draft.values(), null, draft.version(), draft.answers(), draft.chosen(), draft.last());
        var saved =
                saving.save(fresh.sent(published(form, draft), saving, person).under(key));
        return ResponseEntity.created(URI.create(
                        "/api/forms/" + form + "/records/" + saved.record().id()))
                .eTag(etag(saved.record().version()))
                .body(SavedJson.of(saved));
    }

    private static SaveKey key(String given, Map<String, JsonNode> values) {
        if (given.isBlank() || given.length() > SaveKey.LONGEST) {
            throw Problem.malformed("An Idempotency-Key has from 1 to " + SaveKey.LONGEST + " characters.");
        }
        try {
            // The order of the values in the request does not make it another one.
            var body = String.valueOf(values == null ? null : new TreeMap<>(values));
            return new SaveKey(
                    given, MessageDigest.getInstance("SHA-256").digest(body.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    @GetMapping("/api/forms/{form}/records/{id}")
    ResponseEntity<StoredRecord> record(@PathVariable String form, @PathVariable long id) {
        return answer(
                records.find(forms.published(form).table(), id).orElseThrow(() -> Problem.unknown("record " + id)));
    }

    @PutMapping("/api/forms/{form}/records/{id}")
    ResponseEntity<SavedJson> change(
            @PathVariable String form,
            @PathVariable long id,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        var prepared = published(form, draft);
        records.find(prepared.table(), id).orElseThrow(() -> Problem.unknown("record " + id));
        var change = new DraftJson(draft.values(), id, draft.version(), draft.answers(), draft.chosen(), draft.last());
        var saved = saving.save(change.sent(prepared, saving, person).seen(seen(ifMatch)));
        return ResponseEntity.ok().eTag(etag(saved.record().version())).body(SavedJson.of(saved));
    }

    @DeleteMapping("/api/forms/{form}/records/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(
            @PathVariable String form,
            @PathVariable long id,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person) {
        var table = forms.published(form).table();
        records.find(table, id).orElseThrow(() -> Problem.unknown("record " + id));
        records.delete(table, id, seen(ifMatch), Who.of(person));
    }

    private static ResponseEntity<StoredRecord> answer(StoredRecord record) {
        return ResponseEntity.ok().eTag(etag(record.version())).body(record);
    }
}
