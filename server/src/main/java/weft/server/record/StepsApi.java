package weft.server.record;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import weft.core.entry.EntryEngine;
import weft.core.entry.Trace;
import weft.core.value.Value;
import weft.server.Problems.Problem;
import weft.server.Problems.Stopped;
import weft.server.Versions;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.server.record.RecordsApi.SavedJson;
import weft.store.record.Records;
import weft.store.record.ValuesJson;

/** Buttons whose presses are lists of steps. */
@RestController
class StepsApi {

    private final PreparedForms forms;
    private final Saving saving;
    private final EntryEngine engine;
    private final Records records;

    StepsApi(PreparedForms forms, Saving saving, EntryEngine engine, Records records) {
        this.forms = forms;
        this.saving = saving;
        this.engine = engine;
        this.records = records;
    }

    /**
     * What a press did.
     *
     * @param set the fields that were set, with their values
     * @param saved the entry as it was saved; none when the steps do not save
     * @param then what the Desk does next
     */
    record Pressed(
            Map<String, Object> set,

            @Schema(
                    types = {"object", "null"},
                    implementation = SavedJson.class)
            SavedJson saved,

            List<ThenJson> then) {}

    /** Presses a button that has steps, on an entry as it is typed. A stored record needs If-Match when the steps save it. */
    @PostMapping("/api/forms/{form}/buttons/{button}/press")
    Pressed press(
            @PathVariable String form,
            @PathVariable String button,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson asked) {
        var prepared = forms.published(form, Optional.ofNullable(asked.version()));
        if (!prepared.plan().steps().containsKey(button)) {
            throw Problem.unknown("button with steps “" + button + "” on this form");
        }
        var sent = asked.sent(prepared, saving, person);
        var draft = saving.draft(sent);
        var rows = records.rowsOf(prepared.table(), forms::find);
        var values = new LinkedHashMap<String, Value>(draft.stored());
        values.putAll(saving.assess(prepared, draft, Trace.none()).values());
        var outcome = engine.steps(prepared.plan(), button, draft, values, 0, rows, Trace.none());
        if (outcome.question().isPresent()) {
            throw new Stopped(outcome.question().get());
        }
        if (!outcome.saves()) {
            if (outcome.findings().stop()) {
                throw new Stopped(outcome.findings());
            }
            return new Pressed(ValuesJson.of(outcome.set()), null, ThenJson.of(outcome.then()));
        }
        var seen = sent.record().isEmpty() ? sent : sent.seen(Versions.seen(ifMatch));
        var saved = saving.save(seen, draft.with(outcome.set()), button);
        return new Pressed(ValuesJson.of(outcome.set()), SavedJson.of(saved), ThenJson.of(saved.then()));
    }
}
