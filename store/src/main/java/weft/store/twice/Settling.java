package weft.store.twice;

import static weft.store.schema.Tables.SECOND_KEYING;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.door.May;
import weft.core.entry.draft.Draft;
import weft.core.record.StoredRow;
import weft.core.twice.Standing;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.store.door.Ways.Way;
import weft.store.entry.Saving;
import weft.store.entry.Sent;
import weft.store.record.History;
import weft.store.record.Stale;
import weft.store.record.ValuesJson;

/**
 * Settles papers whose keyings differ, by somebody who keyed neither. What is settled goes into the record in the same transaction
 * that says so.
 */
public final class Settling {

    private final DSLContext sql;
    private final Clock clock;
    private final Saving saving;
    private final Papers papers;

    /** Of those papers, with the records saved as any. */
    public Settling(DSLContext sql, Saving saving, Papers papers, Clock clock) {
        this.sql = sql;
        this.clock = clock;
        this.saving = saving;
        this.papers = papers;
    }

    /**
     * A paper whose keyings differ.
     *
     * @param record the record as it stands
     * @param paper the values by which it is recognised
     * @param place by what it is recognised where no values say so
     * @param fields by column, what was keyed first and second
     */
    public record Differing(
            StoredRow record,
            Map<String, Value> paper,
            Optional<Pile.Paper> place,
            Map<String, Compared.Both> fields) {}

    /**
     * The next paper that they could settle, in the order in which the papers were keyed first.
     *
     * @param after the record of the paper before it; empty for the first
     */
    public Optional<Differing> toSettle(Way way, OptionalLong after) {
        return papers.next(
                        way,
                        Papers.differing(way.pass().by())
                                .and(
                                        after.isPresent()
                                                ? SECOND_KEYING.RECORD_ID.gt(after.getAsLong())
                                                : DSL.noCondition()))
                .flatMap(line -> papers.stored(way, line).map(record -> differing(way, line, record)));
    }

    private Differing differing(Way way, Line line, StoredRow record) {
        var paper = papers.paper(way, line, record);
        var table = way.saving().table().definition();
        var second = ValuesJson.held(ValuesJson.read(line.second().data(), table), table);
        var settled = Which.read(line.outcome());
        var fields = new LinkedHashMap<String, Compared.Both>();
        for (var column : Papers.compared(way)) {
            if (!settled.containsKey(column.name())) {
                fields.put(
                        column.name(),
                        new Compared.Both(record.of(column.name()), second.getOrDefault(column.name(), Value.EMPTY)));
            }
        }
        return new Differing(record, paper.paper(), paper.place(), fields);
    }

    /**
     * What holds in a field that differed.
     *
     * @param which first, second, or other where it is typed
     * @param typed what is typed, where neither holds
     */
    public record Choice(Which which, Typed typed) {}

    /**
     * Settles a paper. The same sent again is answered as done.
     *
     * @param version the version of the record that was seen
     * @param choices by column, for each that differs
     * @param answers what is answered to what asks of the record
     * @throws NotYours when it is settled already, or they keyed it themselves
     * @throws Stale when the record is not what was seen
     */
    public void settle(Way way, long record, int version, Map<String, Choice> choices, Map<String, String> answers) {
        var by = way.pass().by();
        var line = papers.line(way, record).orElseThrow(NotYours::settled);
        if (line.standing() == Standing.SETTLED && line.settledBy().equals(Optional.of(by))) {
            return;
        }
        if (line.standing() != Standing.DIFFERING) {
            throw NotYours.settled();
        }
        if (by.equals(line.firstBy()) || line.secondBy().equals(Optional.of(by))) {
            throw NotYours.own();
        }
        var stored = papers.stored(way, line).orElseThrow(NotYours::settled);
        // What holds is chosen of what was seen, the first keying too.
        if (stored.version() != version) {
            throw new Stale(way.saving().table().id(), Optional.of(stored));
        }
        var differing = differing(way, line, stored);
        var outcome = new LinkedHashMap<>(Which.read(line.outcome()));
        var set = new LinkedHashMap<String, Typed>();
        var left = new ArrayList<String>();
        differing.fields().forEach((column, both) -> {
            var choice = choices.get(column);
            if (choice == null || choice.which() == Which.SAME) {
                left.add(column);
                return;
            }
            outcome.put(column, choice.which());
            switch (choice.which()) {
                case SECOND -> set.put(column, new Typed.Given(both.second()));
                case OTHER -> set.put(column, choice.typed());
                case FIRST, SAME -> {
                    // The record holds it already.
                }
            }
        });
        if (!left.isEmpty()) {
            throw new NotYours("Choose for each field that differs; still open: " + String.join(", ", left) + ".");
        }
        put(way, stored, set, answers, within -> {
            int kept = within.update(SECOND_KEYING)
                    .set(SECOND_KEYING.STANDING, Standing.SETTLED)
                    .set(SECOND_KEYING.OUTCOME, Which.json(outcome))
                    .set(SECOND_KEYING.SETTLED_BY, by)
                    .set(SECOND_KEYING.SETTLED_AT, OffsetDateTime.now(clock))
                    .where(Papers.at(way))
                    .and(SECOND_KEYING.RECORD_ID.eq(record))
                    .and(SECOND_KEYING.STANDING.eq(Standing.DIFFERING))
                    .execute();
            if (kept == 0) {
                throw NotYours.settled();
            }
        });
    }

    /** Puts into the record what was settled, with its history, and keeps that it is settled. */
    void put(
            Way way, StoredRow record, Map<String, Typed> set, Map<String, String> answers, Consumer<DSLContext> keep) {
        var form = way.saving();
        var by = way.pass().by();
        if (set.isEmpty()) {
            sql.transaction(inner -> {
                keep.accept(inner.dsl());
                History.settled(inner.dsl(), form.table(), record, by);
            });
            return;
        }
        var draft = new Draft(
                set,
                OptionalLong.of(record.id()),
                record.values(),
                new Draft.Around(way.pass().called(), Map.of(), Map.of(), answers));
        // Whoever keys second or settles changes what differs, whatever else the door lets them do.
        var holds = new Sent(
                form,
                draft.whole(form.plan().columns()),
                record.version(),
                Optional.empty(),
                by,
                Set.of(May.CHANGE),
                Map.of(),
                Optional.empty());
        saving.save(holds.keeping(Optional.of((within, written) -> {
            keep.accept(within);
            History.settledBy(within, form.table(), written);
        })));
    }
}
