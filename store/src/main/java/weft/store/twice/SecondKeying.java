package weft.store.twice;

import static weft.store.schema.Tables.SECOND_KEYING;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import weft.core.entry.Assessment;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.table.Column;
import weft.core.twice.AtOnce;
import weft.core.twice.Comparison;
import weft.core.twice.Standing;
import weft.core.twice.Twice;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.store.door.Ways.Way;
import weft.store.entry.Saving;
import weft.store.entry.Sent;
import weft.store.record.ValuesJson;

/** The second keying of a paper: what is told of a field as it is left, and what comes of the whole. */
public final class SecondKeying {

    private final DSLContext sql;
    private final Clock clock;
    private final Saving saving;
    private final Papers papers;
    private final Settling settling;

    /** Of those papers. */
    public SecondKeying(DSLContext sql, Saving saving, Papers papers, Settling settling, Clock clock) {
        this.sql = sql;
        this.clock = clock;
        this.saving = saving;
        this.papers = papers;
        this.settling = settling;
    }

    /** What is to be said of a second keying as it is typed: as of a new entry, but for what the first keying stands in the way of. */
    public Assessment assess(Way way, long record, Sent sent) {
        var paper = papers.inHand(way, record).paper();
        // What is compared is keyed: nothing begins as it would in a new entry, of this day and by this person.
        var keyed = new LinkedHashMap<String, Value>();
        Papers.compared(way).stream()
                .filter(column -> !sent.draft().says(column.name()))
                .forEach(column -> keyed.put(column.name(), Value.EMPTY));
        keyed.putAll(paper);
        var whole = saving.assess(sent.form(), sent.draft().with(keyed));
        return new Assessment(
                whole.values(),
                whole.readings(),
                whole.fields(),
                new Findings(whole.findings().all().stream()
                        .filter(finding -> finding.stops() && !stored(finding))
                        .toList()),
                whole.offers(),
                whole.shown(),
                List.of());
    }

    /** Whether it says that a record is there already: the first keying of this very paper. */
    private static boolean stored(Finding finding) {
        return finding.code() == Finding.Code.UNIQUE || finding.code() == Finding.Code.OVERLAP;
    }

    /**
     * What is told of a field as it is left, where differences are told at once.
     *
     * @throws NotYours when the paper is not in their hands
     */
    public Compared field(Way way, long record, Column column, Value keyed) {
        var held = papers.held(way, record);
        if (Papers.twice(way).way() != Twice.Way.AT_ONCE
                || !Papers.compared(way).contains(column)) {
            return new Compared(AtOnce.SAME, Optional.empty());
        }
        var tries = new Tries(held.line().tries(), way.saving().table().definition());
        var told = tries.keyed(
                column.name(),
                held.first().of(column.name()),
                keyed,
                Papers.twice(way).texts());
        int kept = sql.update(SECOND_KEYING)
                .set(SECOND_KEYING.TRIES, tries.json())
                .set(SECOND_KEYING.TAKEN_UNTIL, papers.until())
                .where(Papers.at(way))
                .and(SECOND_KEYING.RECORD_ID.eq(record))
                .and(SECOND_KEYING.TAKEN_BY.eq(way.pass().by()))
                .and(SECOND_KEYING.STANDING.eq(Standing.WAITING))
                .execute();
        if (kept == 0) {
            throw NotYours.keyed();
        }
        return told;
    }

    /**
     * What came of a second keying.
     *
     * @param standing waiting while fields are still to be keyed again or chosen
     * @param open those fields, by column
     * @param firstBy who keyed the paper first
     * @param compared the columns that were compared
     * @param differing those of them in which the keyings differ
     */
    public record Finished(
            Standing standing,
            Map<String, Compared> open,
            String firstBy,
            List<String> compared,
            List<String> differing) {}

    /** How a paper stands that they have keyed a second time; empty when they have not. */
    public Optional<Standing> done(Way way, long record) {
        return papers.line(way, record)
                .filter(line -> line.secondBy().equals(Optional.of(way.pass().by())))
                .map(Line::standing)
                .filter(standing -> standing != Standing.WAITING);
    }

    /**
     * Ends a second keying. Blind, what differs is for a third person; at once, each field that differs was keyed the same
     * twice and is chosen.
     *
     * @param keyed the values keyed second, by column
     * @param chosen by column, which keying holds: first or second
     * @param answers what is answered to what asks of the record
     * @throws NotYours when the paper is not in their hands
     */
    public Finished finish(
            Way way, long record, Map<String, Value> keyed, Map<String, Which> chosen, Map<String, String> answers) {
        var held = papers.held(way, record);
        var compared = Papers.compared(way);
        var differing = Comparison.differing(
                compared, held.first().values(), keyed, Papers.twice(way).texts());
        var outcome = new LinkedHashMap<String, Which>();
        compared.forEach(column -> outcome.put(column.name(), Which.SAME));
        if (Papers.twice(way).way() == Twice.Way.BLIND && !differing.isEmpty()) {
            differing.forEach(outcome::remove);
            sql.transaction(inner -> keepSecond(inner.dsl(), way, record, keyed, outcome, Standing.DIFFERING));
            return finished(Standing.DIFFERING, Map.of(), held, compared, differing);
        }
        var open = new LinkedHashMap<String, Compared>();
        var tries = new Tries(held.line().tries(), way.saving().table().definition());
        var set = new LinkedHashMap<String, Typed>();
        for (var name : differing) {
            var which = Optional.ofNullable(chosen.get(name));
            var second = keyed.getOrDefault(name, Value.EMPTY);
            if (which.isEmpty()
                    || !tries.confirmed(name, second, Papers.twice(way).texts())) {
                open.put(name, field(way, record, column(compared, name), second));
            } else if (which.get() == Which.SECOND) {
                outcome.put(name, Which.SECOND);
                set.put(name, new Typed.Given(second));
            } else {
                outcome.put(name, Which.FIRST);
            }
        }
        if (!open.isEmpty()) {
            return finished(Standing.WAITING, open, held, compared, differing);
        }
        settling.put(
                way,
                held.first(),
                set,
                answers,
                within -> keepSecond(within, way, record, keyed, outcome, Standing.SETTLED));
        return finished(Standing.SETTLED, Map.of(), held, compared, differing);
    }

    private static Finished finished(
            Standing standing,
            Map<String, Compared> open,
            Papers.Held held,
            List<Column> compared,
            List<String> differing) {
        return new Finished(
                standing,
                open,
                held.line().firstBy(),
                compared.stream().map(Column::name).toList(),
                differing);
    }

    private static Column column(List<Column> columns, String name) {
        return columns.stream()
                .filter(column -> column.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private void keepSecond(
            DSLContext within,
            Way way,
            long record,
            Map<String, Value> keyed,
            Map<String, Which> outcome,
            Standing standing) {
        boolean settled = standing == Standing.SETTLED;
        var by = way.pass().by();
        int kept = within.update(SECOND_KEYING)
                .set(SECOND_KEYING.STANDING, standing)
                .set(SECOND_KEYING.SECOND_BY, by)
                .set(SECOND_KEYING.SECOND_AT, OffsetDateTime.now(clock))
                .set(SECOND_KEYING.SECOND, JSONB.valueOf(ValuesJson.write(keyed)))
                .set(SECOND_KEYING.OUTCOME, Which.json(outcome))
                .set(SECOND_KEYING.SETTLED_BY, settled ? by : null)
                .set(SECOND_KEYING.SETTLED_AT, settled ? OffsetDateTime.now(clock) : null)
                .setNull(SECOND_KEYING.TAKEN_BY)
                .setNull(SECOND_KEYING.TAKEN_UNTIL)
                .where(Papers.at(way))
                .and(SECOND_KEYING.RECORD_ID.eq(record))
                .and(SECOND_KEYING.STANDING.eq(Standing.WAITING))
                .and(SECOND_KEYING.TAKEN_BY.eq(by))
                .execute();
        if (kept == 0) {
            throw NotYours.keyed();
        }
    }
}
