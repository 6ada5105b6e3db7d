package weft.server.table;

import java.time.OffsetDateTime;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.core.door.Shown;
import weft.server.http.Problem;
import weft.server.record.RecordJson;
import weft.store.alike.AlikeLooks;
import weft.store.alike.AlikeLooks.AlikeLook;
import weft.store.record.SaidDifferent;
import weft.store.table.StoredTable;

/** Records of a table that are nearly the same, among all that it holds. */
@RestController
class AlikeApi {

    private static final int MOST_GROUPS = 100;

    private final AlikeLooks looks;
    private final SaidDifferent different;

    AlikeApi(AlikeLooks looks, SaidDifferent different) {
        this.looks = looks;
        this.different = different;
    }

    /**
     * A look over all records of a table.
     *
     * @param columns in which records are compared
     * @param sound whether those are alike that sound so
     * @param done how many records were read, some of them several times
     * @param whole how many will have been
     * @param found how many pairs are alike, so far
     */
    record AlikeLookJson(
            long id,
            List<String> columns,
            boolean sound,
            AlikeLooks.State state,
            OffsetDateTime begun,
            String by,
            long done,
            long whole,
            int found) {

        static AlikeLookJson of(AlikeLook look) {
            return new AlikeLookJson(
                    look.id(),
                    look.columns(),
                    look.sound(),
                    look.state(),
                    look.begun(),
                    look.by(),
                    look.done(),
                    look.whole(),
                    look.found());
        }
    }

    /** The latest look there was, if any. */
    record LatestLook(@Nullable AlikeLookJson look) {}

    /** By which columns records are compared, and whether those are alike that sound so. */
    record LookAsked(
            @Nullable List<String> columns, @Nullable Boolean sound) {}

    /**
     * Records that are nearly the same.
     *
     * @param why what is between the nearest two, in words
     */
    record AlikeGroupJson(int place, String why, List<RecordJson> records) {}

    /**
     * Groups, the nearest first.
     *
     * @param next the place after which the next ones begin; null when there are none
     */
    record AlikeGroupsJson(
            List<AlikeGroupJson> groups, @Nullable Integer next) {}

    /**
     * Records that are nearly the same, and whether they are different all the same.
     *
     * @param records their identities
     */
    record DifferentAsked(
            @Nullable Set<Long> records, @Nullable Boolean different) {}

    /** The latest look over a table, by those columns or by whatever. */
    @GetMapping("/api/tables/{table}/alike")
    LatestLook latest(
            StoredTable table,
            @RequestParam(required = false) @Nullable List<String> columns,
            @RequestParam(defaultValue = "false") boolean sound) {
        var latest = columns == null || columns.isEmpty() ? looks.latest(table) : looks.latest(table, columns, sound);
        return new LatestLook(latest.map(AlikeLookJson::of).orElse(null));
    }

    /** Begins one, unless one is under way, which is the answer then. */
    @PostMapping("/api/tables/{table}/alike")
    @ResponseStatus(HttpStatus.ACCEPTED)
    AlikeLookJson begin(StoredTable table, Person person, @RequestBody LookAsked asked) {
        return AlikeLookJson.of(looks.begin(
                table,
                Objects.requireNonNullElse(asked.columns(), List.of()),
                Boolean.TRUE.equals(asked.sound()),
                person.title()));
    }

    @GetMapping("/api/tables/{table}/alike/{look}")
    AlikeLookJson look(StoredTable table, @PathVariable long look) {
        return looks.find(table, look).map(AlikeLookJson::of).orElseThrow(() -> Problem.unknown("look " + look));
    }

    /** What a look has found and is still to be told apart. */
    @GetMapping("/api/tables/{table}/alike/{look}/groups")
    AlikeGroupsJson groups(
            StoredTable table,
            @PathVariable long look,
            @RequestParam(defaultValue = "0") int after,
            @RequestParam(defaultValue = "20") int limit) {
        if (limit < 1 || limit > MOST_GROUPS) {
            throw Problem.malformed("A page has from 1 to " + MOST_GROUPS + " groups.");
        }
        look(table, look);
        var groups = looks.groups(table, look, after, limit).stream()
                .map(group -> new AlikeGroupJson(
                        group.place(),
                        group.why(),
                        group.records().stream()
                                .map(Shown::whole)
                                .map(RecordJson::of)
                                .toList()))
                .toList();
        return new AlikeGroupsJson(
                groups, groups.size() < limit ? null : groups.getLast().place());
    }

    /** Ends a look that is under way. */
    @DeleteMapping("/api/tables/{table}/alike/{look}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(StoredTable table, @PathVariable long look) {
        looks.end(table, look);
    }

    /** Remembers of each two of those records that they are different, or forgets it. */
    @PutMapping("/api/tables/{table}/different")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void different(StoredTable table, Person person, @RequestBody DifferentAsked asked) {
        var records = new TreeSet<>(Objects.requireNonNullElse(asked.records(), Set.<Long>of()));
        if (records.size() < 2 || records.size() > SaidDifferent.MOST) {
            throw Problem.malformed("Name 2 to " + SaidDifferent.MOST + " records.");
        }
        if (looks.there(table, records) < records.size()) {
            throw Problem.refused("Some of these records are not there. Name records of this table.");
        }
        var pairs = SaidDifferent.pairs(records);
        if (Boolean.FALSE.equals(asked.different())) {
            different.forget(table, pairs);
        } else {
            different.say(table, pairs, person.name());
        }
    }
}
