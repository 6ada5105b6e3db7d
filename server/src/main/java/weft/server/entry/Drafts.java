package weft.server.entry;

import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.server.http.Person;
import weft.server.http.Problem;
import weft.store.entry.Sent;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.Records;
import weft.store.record.SaveKey;

/** Makes drafts of what requests say is typed: the border between JSON and the engine. */
@Component
public class Drafts {

    private final Definitions definitions;
    private final Records records;

    Drafts(Definitions definitions, Records records) {
        this.definitions = definitions;
        this.records = records;
    }

    /** The published form, in the version that the entry was begun on; 404 when there is none. */
    ReadyForm form(String id, DraftJson asked) {
        return Optional.ofNullable(asked.version())
                .map(version -> definitions
                        .published(id, version)
                        .orElseThrow(() -> Problem.unknown("version " + version + " of form " + id)))
                .or(() -> definitions.published(id))
                .orElseThrow(() -> Problem.unknown("published form " + id));
    }

    /** What is typed at the Desk, not to be saved. */
    public Sent atDesk(String form, DraftJson asked, Person person) {
        return sent(form(form, asked), asked, person, 0, Optional.empty());
    }

    /** What is typed at the Bench, where some fields may lead nowhere. */
    public Sent atBench(ReadyForm copy, DraftJson asked, Person person) {
        return sent(copy, asked.threaded(copy), person, 0, Optional.empty());
    }

    /**
     * An entry to be saved.
     *
     * @param version the version that was seen of the record that it changes
     */
    Sent sent(ReadyForm form, DraftJson asked, Person person, int version, Optional<SaveKey> key) {
        var draft = asked.draft(form.plan(), stored(form, asked.record()), last(form, asked.last()), person.name());
        return new Sent(form, draft, version, key);
    }

    private Map<String, Value> stored(ReadyForm form, @Nullable Long record) {
        return record == null
                ? Map.of()
                : records.find(form.table(), record)
                        .map(StoredRow::values)
                        .orElseThrow(() -> Problem.unknown("record " + record));
    }

    /** None when it is gone meanwhile. */
    private Map<String, Value> last(ReadyForm form, @Nullable Long record) {
        return record == null
                ? Map.of()
                : records.find(form.table(), record).map(StoredRow::values).orElse(Map.of());
    }
}
