package weft.server.people;

import java.time.OffsetDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.http.Problem;
import weft.store.people.Audit;
import weft.store.people.Audit.Deed;
import weft.store.people.Sessions;

/** Who is signed in, and what was done: for administrators. */
@RestController
class AuditApi {

    private static final int PAGE = 100;

    private final Sessions sessions;
    private final Audit audit;
    private final AuditTrail told;

    AuditApi(Sessions sessions, Audit audit, AuditTrail told) {
        this.sessions = sessions;
        this.audit = audit;
        this.told = told;
    }

    /** Somebody who is signed in. */
    record OpenSession(String id, String name, OffsetDateTime since, OffsetDateTime seen) {}

    @GetMapping("/api/sessions")
    List<OpenSession> sessions() {
        return sessions.latest(PAGE).stream()
                .map(open -> new OpenSession(open.id(), open.name(), open.since(), open.seen()))
                .toList();
    }

    @DeleteMapping("/api/sessions/{session}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void endSession(@PathVariable String session) {
        var name = sessions.end(session).orElseThrow(() -> Problem.unknown("such session any more"));
        told.of(Deed.SESSION_ENDED, name);
    }

    /** What was done. */
    record AuditEntry(long id, OffsetDateTime at, String by, Audit.Deed what, String about, String address) {}

    /** What was done, the latest first; {@code next} leads on. */
    record AuditJson(List<AuditEntry> entries, @Nullable Long next) {}

    @GetMapping("/api/audit")
    AuditJson audit(@RequestParam(defaultValue = "0") long before) {
        var page = audit.latest(before, PAGE);
        return new AuditJson(
                page.stream()
                        .map(each -> new AuditEntry(
                                each.id(), each.at(), each.by(), each.what(), each.about(), each.address()))
                        .toList(),
                page.size() < PAGE ? null : page.getLast().id());
    }
}
