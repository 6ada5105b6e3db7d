package weft.store.record;

import static weft.store.schema.Tables.MADE_ONE;
import static weft.store.schema.Tables.SECOND_KEYING;
import static weft.store.schema.Tables.WRITTEN_BESIDE;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.Attempts;
import weft.store.record.TakingBack.AtVersion;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.Tables;

/**
 * Records of one table that are made one: what linked to the others links to the one that stays, the others are removed, and the
 * one that stays is set to what was chosen; in one transaction, and taken back as one for as long as nobody has changed it since.
 */
public final class MadeOne {

    /** So many links are moved at once. */
    public static final int MOST_MOVED = 10_000;

    private final DSLContext sql;
    private final EntryWriter writer;
    private final Clock clock;

    /** In the database that those queries go to; what stays is written as a change by that writer. */
    public MadeOne(DSLContext sql, EntryWriter writer, Clock clock) {
        this.sql = sql;
        this.writer = writer;
        this.clock = clock;
    }

    /**
     * Links that lead to the record that stayed, and led to others.
     *
     * @param table the title of the table that has them
     * @param column the title of the column
     */
    public record Moved(String table, String column, long records) {}

    /**
     * What came of it.
     *
     * @param id by which it is taken back; 0 where nothing was kept
     * @param left what stays with those that go; nothing of what there is none of
     */
    public record Made(long id, StoredRow record, List<Moved> moved, List<Left> left) {}

    /** What stays with the records that go, and how many they have. */
    public record Left(Kind kind, long many) {

        /** What can. */
        public enum Kind {
            /** Papers keyed a second time, or waiting for it. */
            SECOND_KEYINGS,
            /** Records of other tables that steps wrote with one of them. */
            HANDED_ON,
            /** Messages that steps wrote with one of them. */
            MESSAGES
        }

        private static List<Left> of(DSLContext within, StoredTable table, List<Long> gone) {
            var beside = WRITTEN_BESIDE
                    .TABLE_ID
                    .eq(table.id())
                    .and(WRITTEN_BESIDE.RECORD_ID.in(gone))
                    .and(WRITTEN_BESIDE.MADE_ONE_ID.isNull())
                    .and(DSL.not(WRITTEN_BESIDE.UNDONE));
            return Stream.of(
                            new Left(
                                    Kind.SECOND_KEYINGS,
                                    within.fetchCount(
                                            SECOND_KEYING,
                                            SECOND_KEYING
                                                    .TABLE_ID
                                                    .eq(table.id())
                                                    .and(SECOND_KEYING.RECORD_ID.in(gone)))),
                            new Left(
                                    Kind.HANDED_ON,
                                    within.fetchCount(
                                            WRITTEN_BESIDE, beside.and(WRITTEN_BESIDE.OTHER_TABLE_ID.isNotNull()))),
                            new Left(
                                    Kind.MESSAGES,
                                    within.fetchCount(
                                            WRITTEN_BESIDE, beside.and(WRITTEN_BESIDE.OTHER_TABLE_ID.isNull()))))
                    .filter(left -> left.many() > 0)
                    .toList();
        }
    }

    /** More links than are moved at once. Nothing was done. */
    public static final class TooManyLinks extends RuntimeException {}

    /** The change of the record that stays, once the others are gone. It may be asked more than once, and throw what ends it all. */
    @FunctionalInterface
    public interface Chosen {
        /** Says it, with the records as that transaction sees them. */
        EntryWriter.WholeEntry of(Records within, StoredRow stays);
    }

    private static final class Undone extends RuntimeException {
        private final transient Made made;

        Undone(Made made) {
            super("over", null, false, false);
            this.made = made;
        }
    }

    /**
     * Makes them one.
     *
     * @param stays the record that stays
     * @param others those that go
     * @param keeps whether anything is kept; else it is only said what would be
     * @throws Stale when one of them is not what was seen
     * @throws TooManyLinks when more lead to the others than are moved at once
     * @throws NotSaved when the database's own constraints forbid it, here or in another table
     */
    public Made make(
            StoredTable table, AtVersion stays, List<AtVersion> others, String by, Chosen chosen, boolean keeps) {
        try {
            return Attempts.of(
                    () -> sql.transactionResult(inner -> {
                        var made = make(inner.dsl(), table, stays, others, by, chosen);
                        if (!keeps) {
                            throw new Undone(new Made(0, made.record(), made.moved(), made.left()));
                        }
                        return made;
                    }),
                    Attempts::deadlock);
        } catch (Undone over) {
            return over.made;
        } catch (DataAccessException e) {
            throw Refusal.told(table, e);
        }
    }

    /** What came of the same request before, where its answer was lost; nothing is told of links again. */
    public Optional<Made> before(StoredTable table, AtVersion stays, List<AtVersion> others, String by) {
        var ids = others.stream().map(AtVersion::id).toList();
        return sql.select(MADE_ONE.ID)
                .from(MADE_ONE)
                .where(MADE_ONE.TABLE_ID.eq(table.id()))
                .and(MADE_ONE.RECORD_ID.eq(stays.id()))
                .and(MADE_ONE.VERSION.gt(stays.version()))
                .and(MADE_ONE.MADE_BY.eq(by))
                .and(DSL.val(ids.size())
                        .eq(DSL.selectCount()
                                .from(WRITTEN_BESIDE)
                                .where(WRITTEN_BESIDE.MADE_ONE_ID.eq(MADE_ONE.ID))
                                .and(DSL.not(WRITTEN_BESIDE.UNDONE))
                                .and(WRITTEN_BESIDE.OTHER_TABLE_ID.eq(table.id()))
                                .and(WRITTEN_BESIDE.OTHER_ID.in(ids))
                                .and(DSL.notExists(DSL.selectOne()
                                        .from(DSL.table(table.sqlName()))
                                        .where(TableSql.ID.eq(WRITTEN_BESIDE.OTHER_ID))))))
                .orderBy(MADE_ONE.ID.desc())
                .limit(1)
                .fetchOptional(MADE_ONE.ID)
                .flatMap(id -> new Records(sql)
                        .find(SeenTable.all(table), stays.id())
                        .map(now -> new Made(id, now, List.of(), List.of())));
    }

    /** Who made that one, and the record that stayed; empty when there is no such thing. */
    public Optional<By> by(StoredTable table, long id) {
        return sql.select(MADE_ONE.MADE_BY, MADE_ONE.RECORD_ID)
                .from(MADE_ONE)
                .where(MADE_ONE.ID.eq(id))
                .and(MADE_ONE.TABLE_ID.eq(table.id()))
                .fetchOptional(row -> new By(row.value1(), row.value2()));
    }

    /** Who made records one, and the one that stayed. */
    public record By(String name, long record) {}

    private Made make(
            DSLContext within, StoredTable table, AtVersion stays, List<AtVersion> others, String by, Chosen chosen) {
        var ids = others.stream().map(AtVersion::id).toList();
        var seen = Stream.concat(Stream.of(stays), others.stream())
                .map(each -> new Records(within)
                        .find(SeenTable.all(table), each.id())
                        .filter(now -> now.version() == each.version())
                        .orElseThrow(
                                () -> new Stale(table.id(), new Records(within).find(SeenTable.all(table), each.id()))))
                .toList();
        var kept = seen.getFirst();
        var left = Left.of(within, table, ids);
        var wrote = new ArrayList<Beside.Wrote>();
        var moved = new ArrayList<Moved>();
        for (var linking : new Tables(within).linkingTo(table)) {
            var records = move(within, linking, table, kept, ids, by, MOST_MOVED - wrote.size());
            records.forEach(record -> wrote.add(Beside.Wrote.record(linking.in(), record)));
            if (!records.isEmpty()) {
                moved.add(new Moved(
                        linking.in().definition().title(), linking.column().title(), records.size()));
            }
        }
        // One that linked to another of them was changed by that.
        for (var other : ids) {
            var now = latest(within, table, other);
            Records.delete(within, table, other, now.version(), by);
            wrote.add(Beside.Wrote.removed(table, other, now.version()));
        }
        var now = latest(within, table, kept.id());
        long id = within.insertInto(MADE_ONE)
                .set(MADE_ONE.TABLE_ID, table.id())
                .set(MADE_ONE.RECORD_ID, kept.id())
                .set(MADE_ONE.VERSION, now.version() + 1)
                .set(
                        MADE_ONE.GONE_ROWS,
                        seen.stream().skip(1).map(StoredRow::row).toArray(Long[]::new))
                .set(MADE_ONE.MADE_BY, by)
                .set(MADE_ONE.MADE_AT, OffsetDateTime.now(clock))
                .returningResult(MADE_ONE.ID)
                .fetchSingle()
                .value1();
        Beside.keep(within, table, kept.id(), Optional.of(id), wrote);
        Gone.keep(within, table, id, kept.id(), seen.subList(1, seen.size()));
        var whole = chosen.of(new Records(within), now);
        var record = Beside.under(within, table, id, () -> {
            var written = writer.write(within, whole.entry(), whole.following()).record();
            // That it was made one is a change of it, be it of no value: what is undone is never what was before.
            return written.version() > now.version()
                    ? written
                    : Records.change(within, table, written.id(), written.version(), Map.of(), by);
        });
        return new Made(id, record, List.copyOf(moved), left);
    }

    private static StoredRow latest(DSLContext within, StoredTable table, long id) {
        return new Records(within).find(SeenTable.all(table), id).orElseThrow();
    }

    /** Lets what links to records that go link to the one that stays, be it one of them. */
    private static List<StoredRow> move(
            DSLContext within,
            Tables.Linking linking,
            StoredTable table,
            StoredRow stays,
            List<Long> gone,
            String by,
            int most) {
        var in = linking.in();
        Field<Long> link = DSL.field(DSL.name(linking.column().name()), SQLDataType.BIGINT);
        var links = within.select(TableSql.ID, TableSql.VERSION)
                .from(DSL.table(in.sqlName()))
                .where(link.in(gone))
                .orderBy(TableSql.ID)
                .limit(most + 1)
                .forUpdate()
                .fetch();
        if (links.size() > most) {
            throw new TooManyLinks();
        }
        var to = Map.<String, Value>of(linking.column().name(), new Value.Link(stays.id(), stays.row(), ""));
        try {
            return links.stream()
                    .map(row -> Records.change(within, in, row.value1(), row.value2(), to, by))
                    .toList();
        } catch (DataAccessException e) {
            throw in.id() == table.id() ? e : Refusal.elsewhere(in, e);
        }
    }

    /**
     * What a record was made one of.
     *
     * @param id by which it is taken back; empty where it is, or cannot be any more
     * @param rows the rows that the others had
     */
    public record Was(Optional<Long> id, List<Long> rows) {}

    /** By the version that it had then, what a record was made one of; nothing to those who may not be told of every record. */
    public Map<Integer, Was> of(SeenTable table, long record) {
        var stands = DSL.field(DSL.exists(DSL.selectOne()
                .from(WRITTEN_BESIDE)
                .where(WRITTEN_BESIDE.MADE_ONE_ID.eq(MADE_ONE.ID))
                .and(DSL.not(WRITTEN_BESIDE.UNDONE))));
        return table.whole()
                ? sql.select(MADE_ONE.VERSION, MADE_ONE.ID, MADE_ONE.GONE_ROWS, stands)
                        .from(MADE_ONE)
                        .where(MADE_ONE.TABLE_ID.eq(table.id()))
                        .and(MADE_ONE.RECORD_ID.eq(record))
                        .fetchMap(
                                MADE_ONE.VERSION,
                                row -> new Was(
                                        Optional.of(row.value2()).filter(_ -> row.value4()), List.of(row.value3())))
                : Map.of();
    }

    /**
     * Takes it back: each of the records is again what it was, and what was moved leads where it led.
     *
     * @return the record that had stayed, as it is then; empty when there is nothing to take back, or not any more
     * @throws ChangedBeside when somebody changed one of all these since; nothing was done then
     * @throws NotSaved when the database's own constraints forbid what was before
     */
    public Optional<StoredRow> takeBack(StoredTable table, long id, String by) {
        try {
            return Attempts.of(
                    () -> sql.transactionResult(inner -> {
                        var within = inner.dsl();
                        var record = within.select(MADE_ONE.RECORD_ID)
                                .from(MADE_ONE)
                                .where(MADE_ONE.ID.eq(id))
                                .and(MADE_ONE.TABLE_ID.eq(table.id()))
                                .forUpdate()
                                .fetchOptional(MADE_ONE.RECORD_ID);
                        Gone.forget(within, id);
                        return record.filter(_ -> Beside.undo(within, id, by))
                                .flatMap(stayed -> new Records(within).find(SeenTable.all(table), stayed));
                    }),
                    Attempts::deadlock);
        } catch (DataAccessException e) {
            throw Refusal.told(table, e);
        }
    }
}
