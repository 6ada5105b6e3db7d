package weft.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import weft.core.door.May;
import weft.core.door.Person;
import weft.core.entry.plan.EntryPlan;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.server.http.Problem;
import weft.store.door.Throttle;
import weft.store.door.Ways;
import weft.store.door.Ways.Way;
import weft.store.entry.Sent;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.table.SeenTable;
import weft.store.twice.Papers;

/** Makes drafts of what requests say is typed: the border between JSON and the engine. */
@Component
public class Drafts {

    private final Definitions definitions;
    private final Ways ways;
    private final Records records;
    private final Throttle throttle;
    private final Papers papers;
    private final Clock clock;

    Drafts(Definitions definitions, Ways ways, Records records, Throttle throttle, Papers papers, Clock clock) {
        this.definitions = definitions;
        this.ways = ways;
        this.records = records;
        this.throttle = throttle;
        this.papers = papers;
        this.clock = clock;
    }

    /** 429 when more entries come from whoever has the secret address of a door than it takes in a minute. */
    void throttled(Way way, HttpServletRequest request, int entries) {
        var pass = way.pass();
        if (pass.person().isEmpty()
                && !throttle.takes(Throttle.Taken.ENTRIES, pass.door().id(), request.getRemoteAddr(), entries)) {
            throw new Problem(
                    HttpStatus.TOO_MANY_REQUESTS, "More entries come than this door takes. Try again in a minute.");
        }
    }

    /** 409 when the form is archived, and so takes no entry. */
    public void taking(Way way) {
        if (way.saving().document().archived()) {
            throw new Problem(
                    HttpStatus.CONFLICT,
                    "This form is archived and takes no entries. Who builds it can take it into use again.");
        }
    }

    /** The form as it was sent in the version that an entry was begun on; 404 when there is none. */
    private EntryPlan begunOn(Way way, DraftJson asked) {
        var version = asked.version();
        return (version == null || version == way.shown().document().revision()
                        ? way
                        : ways.version(way.pass(), version, LocalDateTime.now(clock))
                                .orElseThrow(() -> Problem.unknown("version " + version + " of this form")))
                .shown()
                .plan();
    }

    /** What is typed at the Desk, not to be saved. */
    Sent atDesk(Way way, DraftJson asked) {
        return sent(way, asked, 0, Optional.empty());
    }

    /** A new entry to be saved, which may be drawn to be keyed again. */
    Sent entered(Way way, DraftJson asked, Optional<SaveKey> key) {
        return sent(way, asked, 0, key).keeping(papers.drawn(way));
    }

    /** What is typed at the published form by one who builds it. */
    public Sent rehearsed(String id, DraftJson asked, Person person) {
        var form = Optional.ofNullable(asked.version())
                .map(version -> definitions
                        .published(id, version)
                        .orElseThrow(() -> Problem.unknown("version " + version + " of form " + id)))
                .or(() -> definitions.published(id))
                .orElseThrow(() -> Problem.unknown("published form " + id));
        return built(form, asked, person);
    }

    /** What is typed at the Bench, where some fields may lead nowhere. */
    public Sent atBench(ReadyForm copy, DraftJson asked, Person person) {
        return built(copy, asked.threaded(copy), person);
    }

    private Sent built(ReadyForm form, DraftJson asked, Person person) {
        var draft = asked.draft(
                form.plan(), stored(form.seen(), asked.record()), last(form.seen(), asked.last()), person.title());
        return new Sent(form, draft, person.name()).lined(asked.sentLines(form.plan()));
    }

    /**
     * An entry by a door, by the rules and for the fields that the form has now, whichever version it was begun on.
     *
     * @param version the version that was seen of the record that it changes
     */
    public Sent sent(Way way, DraftJson asked, int version, Optional<SaveKey> key) {
        var pass = way.pass();
        if (asked.record() != null && !pass.may(May.CHANGE)) {
            throw Problem.forbidden("By the door “" + pass.door().title() + "” one may not change records.");
        }
        var begun = begunOn(way, asked);
        var gone = asked.gone(way.shown().plan(), begun);
        var draft = asked.without(gone)
                .draft(
                        way.saving().plan(),
                        stored(way.shown().seen(), asked.record()),
                        ownOrSeen(way, asked.last()),
                        pass.called())
                .without(gone.stream().filter(asked::fills).map(begun::label).toList());
        return new Sent(
                way.saving(),
                draft,
                version,
                key,
                pass.by(),
                pass.may(),
                asked.sentLines(way.shown().plan()),
                Optional.empty());
    }

    /** All values of a record that is to be seen. */
    private Map<String, Value> stored(SeenTable seen, @Nullable Long record) {
        return record == null
                ? Map.of()
                : records.find(seen, record)
                        .flatMap(there ->
                                seen.whole() ? Optional.of(there) : records.find(SeenTable.all(seen.stored()), record))
                        .map(StoredRow::values)
                        .orElseThrow(() -> Problem.unknown("record " + record));
    }

    /** The entry before, if whoever enters may know of it: their own, or one in view. */
    private Map<String, Value> ownOrSeen(Way way, @Nullable Long record) {
        if (record == null) {
            return Map.of();
        }
        boolean own = way.pass().person().isPresent()
                && records.entered(way.saving().table(), record)
                        .filter(entered -> entered.by().equals(way.pass().by()))
                        .isPresent();
        return last(own ? SeenTable.all(way.saving().table()) : way.shown().seen(), record);
    }

    /** None when it is gone meanwhile. */
    private Map<String, Value> last(SeenTable table, @Nullable Long record) {
        return record == null
                ? Map.of()
                : records.find(table, record).map(StoredRow::values).orElse(Map.of());
    }
}
