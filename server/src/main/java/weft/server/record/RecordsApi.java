package weft.server.record;

import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.http.Person;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.store.form.ReadyForm;
import weft.store.record.Records;

/** Records of a form: read, deleted, and where the next goes. */
@RestController
class RecordsApi {

    private final Records records;

    RecordsApi(Records records) {
        this.records = records;
    }

    record NextRow(long row) {}

    @GetMapping("/api/forms/{form}/next-row")
    NextRow nextRow(ReadyForm form) {
        return new NextRow(records.nextRow(form.table()));
    }

    @GetMapping("/api/forms/{form}/records/{id}")
    ResponseEntity<RecordJson> record(ReadyForm form, @PathVariable long id) {
        var record = records.find(form.table(), id).orElseThrow(() -> Problem.unknown("record " + id));
        return ResponseEntity.ok().eTag(Seen.etag(record.version())).body(RecordJson.of(record));
    }

    @DeleteMapping("/api/forms/{form}/records/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(ReadyForm form, @PathVariable long id, Seen seen, Person person) {
        records.find(form.table(), id).orElseThrow(() -> Problem.unknown("record " + id));
        records.delete(form.table(), id, seen.version(), person.name());
    }
}
