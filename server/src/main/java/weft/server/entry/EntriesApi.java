package weft.server.entry;

import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import weft.server.http.Person;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.store.entry.Saving;
import weft.store.record.SaveKey;

/** Entries through a published form: assessed while typed, saved to the next free row, changed. */
@RestController
class EntriesApi {

    private final Drafts drafts;
    private final Saving saving;

    EntriesApi(Drafts drafts, Saving saving) {
        this.drafts = drafts;
        this.saving = saving;
    }

    @PostMapping("/api/forms/{form}/assess")
    AssessmentJson assess(@PathVariable String form, Person person, @RequestBody DraftJson draft) {
        var sent = drafts.atDesk(form, draft, person);
        return AssessmentJson.of(saving.assess(sent.form(), sent.draft()));
    }

    @PostMapping("/api/forms/{form}/records")
    ResponseEntity<SavedJson> save(
            @PathVariable String form,
            @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String idempotencyKey,
            Person person,
            @RequestBody DraftJson draft) {
        var key = Optional.ofNullable(idempotencyKey).map(given -> key(given, draft.values()));
        var saved = saving.save(drafts.sent(drafts.form(form, draft), draft.of(null), person, 0, key));
        return ResponseEntity.created(URI.create(
                        "/api/forms/" + form + "/records/" + saved.record().id()))
                .eTag(Seen.etag(saved.record().version()))
                .body(SavedJson.of(saved));
    }

    private static SaveKey key(String given, Map<String, @Nullable JsonNode> values) {
        if (given.isBlank() || given.length() > SaveKey.LONGEST) {
            throw Problem.malformed("An Idempotency-Key has from 1 to " + SaveKey.LONGEST + " characters.");
        }
        try {
            // The order of the values in the request does not make it another one.
            var body = new TreeMap<>(values).toString();
            return new SaveKey(
                    given, MessageDigest.getInstance("SHA-256").digest(body.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    @PutMapping("/api/forms/{form}/records/{id}")
    ResponseEntity<SavedJson> change(
            @PathVariable String form, @PathVariable long id, Seen seen, Person person, @RequestBody DraftJson draft) {
        var sent = drafts.sent(drafts.form(form, draft), draft.of(id), person, seen.version(), Optional.empty());
        var saved = saving.save(sent);
        return ResponseEntity.ok().eTag(Seen.etag(saved.record().version())).body(SavedJson.of(saved));
    }
}
