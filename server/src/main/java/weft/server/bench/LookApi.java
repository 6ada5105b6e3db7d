package weft.server.bench;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Shown;
import weft.core.rule.Declaration;
import weft.server.form.Copy;
import weft.server.record.RecordJson;
import weft.store.entry.Looking;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;

/** Which stored records break a rule that need not be kept yet. */
@RestController
class LookApi {

    /** So long one request reads pages; the next one goes on from there. */
    private static final Duration LOOKING = Duration.ofMillis(400);

    private final Looking looking;
    private final Definitions definitions;

    LookApi(Looking looking, Definitions definitions) {
        this.looking = looking;
        this.definitions = definitions;
    }

    /**
     * What a look at stored records found.
     *
     * @param looked how many were looked at
     * @param broken how many of them break the rule
     * @param examples some of those, by row
     * @param next where the next look goes on; null when all were looked at
     */
    record Looked(
            long looked,
            long broken,
            List<Broken> examples,
            @Nullable String next) {}

    /** A record that breaks the rule, and what is said of it. */
    record Broken(long row, String message, RecordJson record) {
        static Broken of(Looking.Broken broken) {
            return new Broken(broken.record().row(), broken.said(), RecordJson.of(Shown.whole(broken.record())));
        }
    }

    /**
     * Looks at stored records with a check, or with what is to hold between them.
     *
     * @param after where a look that read pages goes on
     * @param from the row after which records are shown that the database found
     */
    @PostMapping("/api/forms/{form}/bench/look")
    Looked look(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestParam(required = false) Optional<String> after,
            @RequestParam(required = false, defaultValue = "0") long from,
            @RequestBody Declaration rule) {
        var found = looking.look(OrLines.of(definitions, whole, lines), rule, after, from, LOOKING);
        return new Looked(
                found.looked(),
                found.broken(),
                found.examples().stream().map(Broken::of).toList(),
                found.next().orElse(null));
    }
}
