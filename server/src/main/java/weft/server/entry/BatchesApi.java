package weft.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;
import weft.core.door.Door;
import weft.core.door.May;
import weft.core.entry.Assessment;
import weft.core.formula.Budget;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.entry.AssessmentJson.FieldJson;
import weft.server.entry.AssessmentJson.OfferJson;
import weft.server.entry.BatchJson.Numbered;
import weft.server.http.Problem;
import weft.server.work.WorkTaking;
import weft.store.door.Ways.Way;
import weft.store.entry.SavingMany;
import weft.store.entry.SavingMany.SentLine;
import weft.store.record.Records;

/** Many entries at once by a door that offers it. */
@RestController
class BatchesApi {

    private static final Duration TELLS_EVERY = Duration.ofMillis(100);

    private final Drafts drafts;
    private final SavingMany saving;
    private final Records records;
    private final JsonMapper json;
    private final WorkTaking work;

    BatchesApi(Drafts drafts, SavingMany saving, Records records, JsonMapper json, WorkTaking work) {
        this.drafts = drafts;
        this.saving = saving;
        this.records = records;
        this.json = json;
        this.work = work;
    }

    /**
     * What is to be said of a line.
     *
     * @param row the row it would get; none where the door does not show every record
     */
    record LineAssessed(
            int line,
            @Nullable Long row,
            Map<String, Value> values,
            Map<String, String> readings,
            Map<String, FieldJson> fields,
            List<FindingJson> findings,
            List<OfferJson> offers) {}

    /** What is to be said of each line in which something is typed. */
    record BatchAssessed(List<LineAssessed> lines) {}

    @PostMapping("/api/doors/{door}/batches/assess")
    @Needs(May.ADD)
    BatchAssessed assess(Way door, @RequestBody BatchJson asked) {
        return assessing(door, asked, () -> {}).get();
    }

    /** How many lines are checked so far. */
    record Checked(int checked) {}

    /**
     * The same, told while it goes on, in lines of JSON (NDJSON): how many lines are checked, and at last what is to be said of
     * them.
     */
    @PostMapping(path = "/api/doors/{door}/batches/assess/progress", produces = "application/x-ndjson")
    @Needs(May.ADD)
    void progress(Way door, @RequestBody BatchJson asked, HttpServletResponse response) throws Exception {
        var checked = new AtomicInteger();
        var assessing = assessing(door, asked, checked::incrementAndGet);
        var budget = Budget.now();
        try (var beside = Executors.newVirtualThreadPerTaskExecutor()) {
            var assessed = beside.submit(() -> budget.within(assessing));
            response.setContentType("application/x-ndjson");
            while (assessed.state() == Future.State.RUNNING) {
                try {
                    assessed.get(TELLS_EVERY.toMillis(), TimeUnit.MILLISECONDS);
                } catch (TimeoutException _) {
                    line(response, new Checked(checked.get()));
                } catch (ExecutionException e) {
                    throw e.getCause() instanceof RuntimeException known ? known : e;
                }
            }
            line(response, assessed.resultNow());
        }
    }

    private void line(HttpServletResponse response, Object told) throws IOException {
        var out = response.getOutputStream();
        out.write(json.writeValueAsBytes(told));
        out.write('\n');
        out.flush();
    }

    private Supplier<BatchAssessed> assessing(Way way, BatchJson asked, Runnable looked) {
        var lines = offered(way, asked).typed();
        if (lines.isEmpty()) {
            return () -> new BatchAssessed(List.of());
        }
        var sent = lines.stream()
                .map(line -> drafts.atDesk(way, line.draft()).draft())
                .toList();
        return () -> assessed(way, lines, saving.assess(way.saving(), sent, looked));
    }

    private BatchAssessed assessed(Way way, List<Numbered> lines, List<Assessment> assessments) {
        var rows = way.pass().seesAll() ? records.nextRows(way.saving().table(), lines.size()) : List.<Long>of();
        var answer = new ArrayList<LineAssessed>();
        for (int at = 0; at < lines.size(); at++) {
            int line = lines.get(at).line();
            var said = AssessmentJson.of(way.narrowing().of(assessments.get(at)));
            var findings =
                    said.findings().stream().map(finding -> finding.of(line)).toList();
            answer.add(new LineAssessed(
                    line,
                    rows.isEmpty() ? null : rows.get(at),
                    said.values(),
                    said.readings(),
                    said.fields(),
                    findings,
                    said.offers()));
        }
        return new BatchAssessed(answer);
    }

    /** A line that was saved. */
    record LineSaved(int line, long id, long row, int version) {}

    /** A line that was not, with what is in its way. */
    record LineLeft(int line, List<FindingJson> findings) {}

    /** What came of a batch. */
    record BatchSaved(List<LineSaved> rows, List<LineLeft> left) {}

    @PostMapping("/api/doors/{door}/batches")
    @ResponseStatus(HttpStatus.CREATED)
    @Needs(May.ADD)
    BatchSaved save(
            Way way,
            @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String idempotencyKey,
            HttpServletRequest request,
            @RequestBody BatchJson asked) {
        var typed = offered(way, asked).typed();
        if (typed.isEmpty()) {
            throw Problem.refused("Nothing is typed in any line.");
        }
        drafts.throttled(way, request, typed.size());
        drafts.taking(way);
        var key = Optional.ofNullable(idempotencyKey).map(given -> Keys.of(way.pass(), given, asked.spelled()));
        var outcome = saving.save(typed.stream().map(line -> line(way, line)).toList(), key, asked.passing());
        if (!outcome.again()) {
            work.entered(way, outcome.saved().size());
        }
        return new BatchSaved(
                outcome.saved().entrySet().stream()
                        .map(each -> new LineSaved(
                                each.getKey(),
                                each.getValue().id(),
                                each.getValue().row(),
                                each.getValue().version()))
                        .toList(),
                outcome.left().entrySet().stream()
                        .map(each -> new LineLeft(
                                each.getKey(), FindingJson.of(way.narrowing().of(each.getValue()), each.getKey())))
                        .toList());
    }

    private SentLine line(Way way, Numbered numbered) {
        return new SentLine(numbered.line(), drafts.entered(way, numbered.draft(), Optional.empty()));
    }

    private static BatchJson offered(Way way, BatchJson asked) {
        var door = way.pass().door();
        if (!door.keying().many()) {
            throw Problem.forbidden("By the door “" + door.title() + "” entries are keyed one at a time.");
        }
        if (asked.passing() && door.keying().keep() != Door.Keep.PASSING) {
            throw Problem.refused("By the door “" + door.title() + "” all lines are saved together, or none.");
        }
        return asked.checked();
    }
}
