package weft.server.twice;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.entry.Assessment;
import weft.core.table.Column;
import weft.core.twice.AtOnce;
import weft.core.twice.Standing;
import weft.core.twice.Twice;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.entry.AssessmentJson;
import weft.server.entry.DraftJson;
import weft.server.entry.Drafts;
import weft.server.http.Problem;
import weft.server.work.WorkTaking;
import weft.store.door.Ways.Way;
import weft.store.entry.Stopped;
import weft.store.twice.Compared;
import weft.store.twice.Papers;
import weft.store.twice.SecondKeying;
import weft.store.twice.Which;

/** Papers keyed a second time by a door: taken, compared field by field or whole, and ended. What was keyed first is never sent. */
@RestController
class SecondKeyingApi {

    private final Drafts drafts;
    private final Papers papers;
    private final SecondKeying keying;
    private final TwicePapers called;
    private final WorkTaking work;

    SecondKeyingApi(Drafts drafts, Papers papers, SecondKeying keying, TwicePapers called, WorkTaking work) {
        this.drafts = drafts;
        this.papers = papers;
        this.keying = keying;
        this.called = called;
        this.work = work;
    }

    /**
     * What waits at a door, and what whoever asks may do of it.
     *
     * @param paper the columns by which a paper is recognised
     * @param compared the columns that are compared
     * @param waiting how many papers wait to be keyed by them; a thousand for so many or more
     * @param settling how many wait to be settled by them, likewise
     */
    record TwiceState(
            Twice.Way way,
            List<String> paper,
            List<String> compared,
            int waiting,
            int settling,
            boolean keys,
            boolean settles) {}

    @GetMapping("/api/doors/{door}/twice")
    @Needs(twice = true)
    TwiceState state(Way way) {
        var twice = way.pass().door().twice().orElseThrow();
        var waiting = papers.waiting(way);
        boolean keys = way.pass().may(May.ADD);
        boolean settles = TwicePapers.maySettle(way);
        return new TwiceState(
                twice.way(),
                twice.paper(),
                Papers.compared(way).stream().map(Column::name).toList(),
                keys ? waiting.keying() : 0,
                settles ? waiting.settling() : 0,
                keys,
                settles);
    }

    /**
     * The paper that is wanted, by what it is recognised by; none for the one that waits longest.
     *
     * @param but records whose papers are put aside, and not wanted now
     */
    record PaperAsked(
            @Nullable Map<String, @Nullable String> paper,
            @Nullable List<Long> but) {

        private static final int MOST_ASIDE = 1_000;

        List<Long> aside() {
            if (but != null && but.size() > MOST_ASIDE) {
                throw Problem.malformed("At most %,d papers are put aside.".formatted(MOST_ASIDE));
            }
            return but == null ? List.of() : but;
        }

        Map<String, String> typed() {
            var typed = new LinkedHashMap<String, String>();
            if (paper != null) {
                paper.forEach((column, text) -> typed.put(column, text == null ? "" : text));
            }
            return typed;
        }
    }

    /** The paper that was taken; none when none waits. */
    record PaperTaken(@Nullable PaperJson paper) {}

    /** Takes a paper: nobody else gets it until it is keyed or left, or for half an hour after the last field. */
    @PostMapping("/api/doors/{door}/twice/take")
    @Needs(value = May.ADD, twice = true)
    PaperTaken take(Way door, @RequestBody PaperAsked asked) {
        return new PaperTaken(papers.take(door, called.asked(door, asked.typed()), asked.aside())
                .map(paper -> called.json(door, paper))
                .orElse(null));
    }

    /** Puts a paper back for others. */
    @PostMapping("/api/doors/{door}/twice/{record}/leave")
    @Needs(value = May.ADD, twice = true)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(Way door, @PathVariable long record) {
        papers.leave(door, record);
    }

    /** What is to be said of a second keying as it is typed: as of a new entry, but for what the first keying stands in the way of. */
    @PostMapping("/api/doors/{door}/twice/{record}/assess")
    @Needs(value = May.ADD, twice = true)
    AssessmentJson assess(Way way, @PathVariable long record, @RequestBody DraftJson draft) {
        return AssessmentJson.of(way.narrowing().of(assessed(way, record, draft)));
    }

    private Assessment assessed(Way way, long record, DraftJson draft) {
        return keying.assess(way, record, drafts.sent(way, draft.of(null), 0, Optional.empty()));
    }

    /**
     * What is told of a field.
     *
     * @param both what was keyed first and second, where one is to choose
     */
    record FieldTold(
            AtOnce said,

            @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable
            BothJson both) {

        static FieldTold of(Compared told) {
            return new FieldTold(told.said(), told.both().map(BothJson::of).orElse(null));
        }
    }

    /** What is told of a field as it is left, where differences are told at once. */
    @PostMapping("/api/doors/{door}/twice/{record}/fields/{column}")
    @Needs(value = May.ADD, twice = true)
    FieldTold field(Way way, @PathVariable long record, @PathVariable String column, @RequestBody DraftJson draft) {
        var field = way.shown()
                .plan()
                .takes(column)
                .orElseThrow(() -> Problem.unknown("field for “" + column + "” on this form"));
        var assessment = assessed(way, record, draft);
        return assessment.findings().fields().contains(field.name())
                ? new FieldTold(AtOnce.UNREAD, null)
                : FieldTold.of(
                        keying.field(way, record, field, assessment.values().getOrDefault(field.name(), Value.EMPTY)));
    }

    /**
     * A second keying.
     *
     * @param entry what is typed
     * @param choices by column, which keying holds: first or second
     */
    record SecondKeyed(DraftJson entry, @Nullable Map<String, Which> choices) {}

    /**
     * What came of it.
     *
     * @param standing settled; differing, when somebody else settles it; waiting, when fields are open
     * @param open what is told of those that are to be keyed again or chosen, by column
     */
    record SecondEnded(Standing standing, Map<String, FieldTold> open) {}

    /** Ends a second keying. The same sent again is answered as done. */
    @PostMapping("/api/doors/{door}/twice/{record}")
    @Needs(value = May.ADD, twice = true)
    SecondEnded finish(Way way, @PathVariable long record, @RequestBody SecondKeyed asked) {
        var done = keying.done(way, record);
        if (done.isPresent()) {
            return new SecondEnded(done.get(), Map.of());
        }
        drafts.taking(way);
        var assessment = assessed(way, record, asked.entry());
        if (!assessment.findings().none()) {
            throw new Stopped(assessment.findings());
        }
        var choices = asked.choices() == null ? Map.<String, Which>of() : asked.choices();
        var answers = asked.entry().answers();
        var ended = keying.finish(way, record, assessment.values(), choices, answers == null ? Map.of() : answers);
        if (ended.standing() != Standing.WAITING) {
            work.keyedAgain(way, asked.entry().work(), ended.firstBy(), ended.compared(), ended.differing());
        }
        var open = new LinkedHashMap<String, FieldTold>();
        ended.open().forEach((column, told) -> open.put(column, FieldTold.of(told)));
        return new SecondEnded(ended.standing(), open);
    }

    /** What was keyed first and second. */
    record BothJson(Value first, Value second, String firstWords, String secondWords) {

        static BothJson of(Compared.Both both) {
            return new BothJson(
                    both.first(),
                    both.second(),
                    both.first().spoken(),
                    both.second().spoken());
        }
    }
}
