package weft.server.record;

import static weft.server.Versions.etag;
import static weft.server.Versions.seen;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
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
import weft.core.entry.Assessment;
import weft.core.entry.EntryEngine;
import weft.server.Problems.FindingJson;
import weft.server.Problems.Problem;
import weft.server.Problems.Stopped;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.server.form.PreparedForms.Prepared;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.record.StoredRecord;
import weft.store.record.ValuesJson;

/** Entries through a published form: assessed while typed, saved to the next free row, read, changed, deleted. */
@RestController
class RecordsApi {

    private final PreparedForms forms;
    private final EntryEngine engine;
    private final Records records;

    RecordsApi(PreparedForms forms, EntryEngine engine, Records records) {
        this.forms = forms;
        this.engine = engine;
        this.records = records;
    }

    /**
     * An entry as it is typed.
     *
     * @param record the stored record that it changes; none for a new entry
     * @param version the published version of the form it was begun on; the latest when none is said
     */
    record DraftJson(Map<String, JsonNode> values, Long record, Integer version) {}

    record FieldState(boolean required) {}

    record AssessmentJson(
            Map<String, Object> values,
            Map<String, String> readings,
            Map<String, FieldState> fields,
            List<FindingJson> findings) {}

    record NextRow(long row) {}

    @GetMapping("/api/forms/{form}/next-row")
    NextRow nextRow(@PathVariable String form) {
        return new NextRow(records.nextRow(forms.published(form).table()));
    }

    @PostMapping("/api/forms/{form}/assess")
    AssessmentJson assess(@PathVariable String form, @RequestBody DraftJson draft) {
        return assessed(published(form, draft), draft);
    }

    /** As at the Desk, by the rules of the working copy. Nothing is written. */
    @PostMapping("/api/forms/{form}/bench/assess")
    AssessmentJson assessAtBench(@PathVariable String form, @RequestBody DraftJson draft) {
        return assessed(forms.workingCopy(form), draft);
    }

    private Prepared published(String form, DraftJson draft) {
        return forms.published(form, Optional.ofNullable(draft.version()));
    }

    private AssessmentJson assessed(Prepared prepared, DraftJson draft) {
        var record = draft.record() == null ? OptionalLong.empty() : OptionalLong.of(draft.record());
        var assessment = assess(prepared, draft.values(), record);
        var fields = new LinkedHashMap<String, FieldState>();
        prepared.plan()
                .columns()
                .forEach(column ->
                        fields.put(column.name(), new FieldState(prepared.plan().requires(column.name()))));
        return new AssessmentJson(
                ValuesJson.of(assessment.values()),
                assessment.readings(),
                fields,
                FindingJson.of(assessment.findings()));
    }

    @PostMapping("/api/forms/{form}/records")
    ResponseEntity<StoredRecord> save(
            @PathVariable String form,
            @RequestHeader(name = "Idempotency-Key", required = false) String idempotencyKey,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        var prepared = published(form, draft);
        var key = Optional.ofNullable(idempotencyKey).map(given -> key(given, draft.values()));
        var saved = save(prepared, draft.values(), key, Who.of(person));
        return ResponseEntity.created(URI.create("/api/forms/" + form + "/records/" + saved.id()))
                .eTag(etag(saved.version()))
                .body(saved);
    }

    private StoredRecord save(Prepared prepared, Map<String, JsonNode> values, Optional<SaveKey> key, String by) {
        var assessment = assess(prepared, values, OptionalLong.empty());
        if (assessment.findings().stop()) {
            // An entry that was saved before under its key may well collide with itself by now.
            return key.flatMap(each -> before(prepared, each)).orElseThrow(() -> new Stopped(assessment.findings()));
        }
        try {
            return records.save(prepared.table(), assessment.values(), key, by);
        } catch (NotSaved e) {
            throw refusal(e, prepared, values, OptionalLong.empty());
        }
    }

    private Optional<StoredRecord> before(Prepared prepared, SaveKey key) {
        try {
            return records.savedBefore(prepared.table(), key);
        } catch (NotSaved reused) {
            throw keyReused();
        }
    }

    private Assessment assess(Prepared prepared, Map<String, JsonNode> values, OptionalLong record) {
        var draft = TypedJson.draft(prepared.plan(), values, record);
        return engine.assess(prepared.plan(), draft, records.rowsOf(prepared.table()));
    }

    /** The database had the last word: what it refused comes back as findings on the fields concerned. */
    private RuntimeException refusal(NotSaved e, Prepared prepared, Map<String, JsonNode> values, OptionalLong record) {
        if (e.reason() == NotSaved.Reason.KEY_REUSED) {
            return keyReused();
        }
        // What was lost in a race is there to be seen now.
        var again = assess(prepared, values, record).findings();
        if (again.stop()) {
            return new Stopped(again);
        }
        return LastWord.stopped(e, prepared.table().definition());
    }

    private static Problem keyReused() {
        return new Problem(
                HttpStatus.UNPROCESSABLE_CONTENT,
                "This Idempotency-Key was used for another entry. Send a new entry under a new key.");
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
    ResponseEntity<StoredRecord> change(
            @PathVariable String form,
            @PathVariable long id,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        var prepared = published(form, draft);
        records.find(prepared.table(), id).orElseThrow(() -> Problem.unknown("record " + id));
        int version = seen(ifMatch);
        var assessment = assess(prepared, draft.values(), OptionalLong.of(id));
        if (assessment.findings().stop()) {
            throw new Stopped(assessment.findings());
        }
        try {
            return answer(records.change(prepared.table(), id, version, assessment.values(), Who.of(person)));
        } catch (NotSaved e) {
            throw refusal(e, prepared, draft.values(), OptionalLong.of(id));
        }
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
