package weft.server.record;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.entry.LastWord;
import weft.store.entry.MakingOne;
import weft.store.entry.MakingOne.Together;
import weft.store.record.MadeOne;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.TakingBack.AtVersion;

/** Records that are made one, and taken back. */
@RestController
class MakingOneApi {

    /** The most that go at once. */
    private static final int MOST = 9;

    private final MakingOne making;
    private final MadeOne madeOne;
    private final Records records;

    MakingOneApi(MakingOne making, MadeOne madeOne, Records records) {
        this.making = making;
        this.madeOne = madeOne;
        this.records = records;
    }

    /**
     * Records that are to be made one.
     *
     * @param stays the one that stays
     * @param others those that go
     * @param from by column, the identity of the record whose value is taken; of others that of the one that stays
     * @param answers what was answered to what is asked, as of a draft
     * @param rehearse whether nothing is kept
     */
    record OneAsked(
            SeenRecord stays,

            @Size(min = 1, max = MOST, message = "Name the records that go, 1 to 9.")
            List<SeenRecord> others,

            @Nullable Map<String, Long> from,
            @Nullable Map<String, String> answers,
            @Nullable Boolean rehearse) {

        private Together together() {
            return new Together(
                    new AtVersion(stays.id(), stays.version()),
                    others.stream()
                            .map(each -> new AtVersion(each.id(), each.version()))
                            .toList(),
                    Objects.requireNonNullElse(from, Map.of()),
                    Objects.requireNonNullElse(answers, Map.of()));
        }
    }

    /**
     * What came of it.
     *
     * @param id by which it is taken back; none where nothing was kept
     * @param record the one that stayed
     * @param moved the links that lead to it and led to others
     * @param left what stays with those that go
     */
    record MadeOneJson(@Nullable Long id, RecordJson record, List<MovedJson> moved, List<LeftJson> left) {}

    /** What stays with the records that go, and how many they have. */
    record LeftJson(MadeOne.Left.Kind kind, long many) {}

    /**
     * Links that lead to the record that stayed, and led to others.
     *
     * @param table the title of the table that has them
     * @param column the title of the column
     */
    record MovedJson(String table, String column, long records) {}

    @PostMapping("/api/doors/{door}/made-one")
    @Needs(May.REMOVE)
    MadeOneJson make(Way door, @RequestBody @Valid OneAsked asked) {
        var ids = new HashSet<Long>();
        ids.add(asked.stays().id());
        asked.others().forEach(each -> ids.add(each.id()));
        if (ids.size() <= asked.others().size()) {
            throw Problem.malformed("Name each record once.");
        }
        var made = making.make(door, asked.together(), !Boolean.TRUE.equals(asked.rehearse()));
        return new MadeOneJson(
                made.id() == 0 ? null : made.id(),
                RecordJson.of(door.of(made.record())),
                made.moved().stream()
                        .map(moved -> new MovedJson(moved.table(), moved.column(), moved.records()))
                        .toList(),
                made.left().stream()
                        .map(left -> new LeftJson(left.kind(), left.many()))
                        .toList());
    }

    /** Takes it back with everything that moved: what one made oneself, or by the builders' own door what anybody did. */
    @PostMapping("/api/doors/{door}/made-one/{id}/take-back")
    @Needs(May.REMOVE)
    RecordJson takeBack(Way door, @PathVariable long id) {
        var table = door.saving().table();
        making.needLet(door);
        var unknown = Problem.unknown("made one " + id + " that can still be taken back");
        var _ = madeOne.by(table, id)
                .filter(by ->
                        by.name().equals(door.pass().by()) || door.pass().door().isEverything())
                .flatMap(by -> records.find(door.shown().seen(), by.record()))
                .orElseThrow(() -> unknown);
        try {
            return madeOne.takeBack(table, id, door.pass().by())
                    .flatMap(record -> records.find(door.shown().seen(), record.id()))
                    .map(door::of)
                    .map(RecordJson::of)
                    .orElseThrow(() -> unknown);
        } catch (NotSaved e) {
            throw LastWord.stopped(e, table.definition());
        }
    }

    @ExceptionHandler
    ProblemDetail tooMany(MadeOne.TooManyLinks tooMany) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.CONFLICT,
                "More than %,d records link to those that go; so many are not moved at once. Link some elsewhere first."
                        .formatted(MadeOne.MOST_MOVED));
    }
}
