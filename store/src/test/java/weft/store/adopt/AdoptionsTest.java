package weft.store.adopt;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.changed;
import static weft.store.Given.saved;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Faults;
import weft.core.table.Link;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.store.TestDatabase;
import weft.store.backup.Where;
import weft.store.form.Forms;
import weft.store.record.History;
import weft.store.record.LinkedTo;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.table.Columns;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/** Tables that other programs made, with every kind of column and of constraint: adopted, written from both sides, and let go. */
@ExtendWith(TestDatabase.class)
class AdoptionsTest {

    private static final AtomicInteger SCHEMAS = new AtomicInteger();

    private final DSLContext sql = TestDatabase.get().sql();
    private final Adoptions adoptions =
            new Adoptions(TestDatabase.get(), new Forms(TestDatabase.get().sql()));
    private final Records records = new Records(sql);
    private final History history = new History(sql);
    private final Columns columns = new Columns(sql, _ -> {
        throw new AssertionError("no rows are looked up");
    });
    private String schema;
    private Connection program;
    private DSLContext other;

    @BeforeEach
    void given() throws SQLException {
        schema = "Sales " + SCHEMAS.incrementAndGet();
        program = TestDatabase.program("till");
        other = DSL.using(program, SQLDialect.POSTGRES);
        other.execute("create schema " + Sql.quoted(schema));
        other.execute("set search_path = " + Sql.quoted(schema));
    }

    @AfterEach
    void done() throws SQLException {
        program.close();
    }

    private StoredTable adopt(String name) {
        return adoptions
                .adopt(schema, name, "", Optional.empty(), "Odile")
                .orElseThrow()
                .table();
    }

    private Column column(StoredTable table, String name) {
        return table.definition().column(name).orElseThrow();
    }

    private StoredRow only(StoredTable table) {
        return records.find(
                        SeenTable.all(table),
                        sql.fetchSingle("select _id from " + sql.render(table.sqlName()))
                                .get(0, Long.class))
                .orElseThrow();
    }

    private static final String EVERYTHING = """
            create type mood as enum ('calm', 'it''s fine', 'Storm');
            create domain code as varchar(8) check (value ~ '^[A-Z]+[0-9]*$');
            create domain share as numeric(5,2) not null default 12.5 check (value between 0 and 100);
            create table "Things" (
              id integer generated always as identity primary key,
              serial_no serial,
              "Full Name" varchar(20) not null,
              code code unique,
              "select" text not null default 'none',
              mood mood not null default 'calm',
              kind text check (kind in ('big', 'small')),
              size varchar(9) check (size in ('S', 'it''s [L]', 'a, b')),
              few smallint check (few > 0 and few <= 99),
              many bigint,
              price numeric(8,2) check (price >= 0),
              any_number numeric,
              share share,
              ok boolean default true,
              on_day date,
              at_time time,
              at timestamp default '2020-01-01 10:11:12.345678',
              made timestamptz not null default '2021-02-03 04:05:06.789+02',
              twice numeric generated always as (price * 2) stored,
              tags text[] not null default '{a,"b c"}',
              doc jsonb default '{"ask?": {"0": "NaN"}}',
              old_doc json,
              bytes bytea default '\\x00ff',
              ratio double precision default 0.1,
              took interval default '1 day 02:03:04',
              uid uuid not null default 'a0eebc99-9c0b-4ef8-bb6d-6bb9bd380a11',
              fixed char(4),
              place point,
              check (many is null or few is null or many > few),
              unique (on_day, at_time)
            );
            create function stamp() returns trigger language plpgsql as $$ begin new.fixed := upper(new.fixed); return new; end $$;
            create trigger stamp before insert or update on "Things" for each row execute function stamp();
            create function audit() returns trigger language plpgsql as $$ begin return null; end $$;
            create trigger never after update on "Things" for each row execute function audit();
            alter table "Things" disable trigger never;
            create trigger ever after update on "Things" for each row execute function audit();
            alter table "Things" enable always trigger ever;
            create index on "Things" (lower("Full Name"));
            insert into "Things" ("Full Name", many, few, old_doc) values ('Second', 20, 2, '{"a":1, "a":2}'), ('Third', 30, 3, null);
            """;

    private String dump() throws Exception {
        Where where = TestDatabase.where("postgres");
        var process = where.program("pg_dump", List.of("--schema-only", "--schema=" + Sql.quoted(schema)))
                .redirectErrorStream(true)
                .start();
        var text = new String(process.getInputStream().readAllBytes());
        assertThat(process.waitFor()).as(text).isZero();
        return text.replaceAll("(?m)^\\\\(un)?restrict .*$", "");
    }

    @Test
    void everyKindOfColumnIsUsedOrShownWithItsReason() {
        other.execute(EVERYTHING);
        var preview = adoptions.preview(schema, "Things", Optional.empty()).orElseThrow();
        assertThat(preview.refused()).isEmpty();
        assertThat(preview.rows()).isEqualTo(2);
        assertThat(preview.lock().orElseThrow()).isPositive();
        assertThat(preview.added()).contains("column _row bigint", "trigger zz_weft_saved");
        assertThat(preview.held()).extracting(Adoptions.Held::what).contains("primary key: id", "unique: code");
        var types = preview.columns().stream()
                .collect(Collectors.toMap(
                        each -> each.column().name(), each -> each.column().type()));
        assertThat(types)
                .containsEntry("full_name", ColumnType.TEXT)
                .containsEntry("select_", ColumnType.TEXT)
                .containsEntry("mood", ColumnType.CHOICE)
                .containsEntry("kind", ColumnType.CHOICE)
                .containsEntry("few", ColumnType.WHOLE)
                .containsEntry("price", ColumnType.DECIMAL)
                .containsEntry("ok", ColumnType.YESNO)
                .containsEntry("at", ColumnType.DATETIME);
        var shown = preview.columns().stream()
                .filter(each -> each.column().shownOnly().isPresent())
                .map(each -> each.column().name())
                .toList();
        assertThat(shown)
                .containsExactly(
                        "id",
                        "serial_no",
                        "made",
                        "twice",
                        "tags",
                        "doc",
                        "old_doc",
                        "bytes",
                        "ratio",
                        "took",
                        "uid",
                        "place");
        var table = adopt("Things");
        assertThat(column(table, "full_name").longest()).hasValue(20);
        assertThat(column(table, "full_name").required()).isTrue();
        assertThat(column(table, "mood").choices()).containsExactly("calm", "it's fine", "Storm");
        assertThat(column(table, "mood").required()).isFalse();
        assertThat(column(table, "kind").choices()).containsExactly("big", "small");
        assertThat(column(table, "size").choices()).containsExactly("S", "it's [L]", "a, b");
        assertThat(column(table, "few").min()).contains(new Value.Whole(1));
        assertThat(column(table, "few").max()).contains(new Value.Whole(99));
        assertThat(column(table, "price").min()).contains(new Value.Decimal(new BigDecimal("0.00")));
        assertThat(column(table, "price").max()).contains(new Value.Decimal(new BigDecimal("999999.99")));
        assertThat(column(table, "share").required()).isFalse();
        assertThat(column(table, "any_number").scale()).isEmpty();
        assertThat(column(table, "code").unique()).isTrue();
        assertThat(table.definition().constraints())
                .singleElement()
                .extracting(Constraint::columns)
                .isEqualTo(List.of("on_day", "at_time"));
    }

    @Test
    void whatIsLetGoIsAsItWasBefore() throws Exception {
        other.execute(EVERYTHING);
        other.execute(
                "create table leads (id bigint primary key, thing int references \"Things\", boss bigint references leads)");
        other.execute("insert into leads values (7, 2, null), (3, null, 7)");
        var before = dump();
        var rows = other.fetch("select * from \"Things\" order by id").format(100);
        var things = adopt("Things");
        var leads = adopt("leads");
        assertThat(dump()).isNotEqualTo(before).contains("_entered_by", "zz_weft_written", "_link_boss");
        saved(leads, values("id", new Value.Whole(9)), Optional.empty(), "Odile");
        assertThatThrownBy(() -> columns.delete(things.definition().name()))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("A link leads to it");
        columns.delete(leads.definition().name());
        columns.delete(things.definition().name());
        assertThat(dump()).isEqualTo(before);
        assertThat(other.fetch("select * from \"Things\" order by id").format(100))
                .isEqualTo(rows);
        assertThat(sql.fetch(
                        "select proname from pg_proc where pronamespace = 'weft'::regnamespace and proname like {0}",
                        "%\\_" + things.id()))
                .isEmpty();
        // And once more, to the same end.
        columns.delete(adopt("Things").definition().name());
        assertThat(dump()).isEqualTo(before);
        other.execute("insert into \"Things\" (\"Full Name\") values ('Fourth')");
    }

    @Test
    void anEntryIsWhatTheTableMakesOfIt() {
        other.execute(EVERYTHING);
        var table = adopt("Things");
        var row = saved(
                table,
                values(
                        "full_name", text("Ärmel"),
                        "mood", text("it's fine"),
                        "price", new Value.Decimal(new BigDecimal("1.25")),
                        "fixed", text("ab"),
                        "few", new Value.Whole(5)),
                Optional.empty(),
                "Odile");
        assertThat(row.row()).isEqualTo(3);
        assertThat(row.values())
                .containsEntry("id", new Value.Whole(3))
                .containsEntry("select_", text("none"))
                .containsEntry("twice", text("2.50"))
                .containsEntry("fixed", text("AB"))
                .containsEntry("share", new Value.Decimal(new BigDecimal("12.50")))
                .containsEntry("tags", text("{a,\"b c\"}"))
                .containsEntry("made", text("2021-02-03T02:05:06.789Z"));
        assertThat(history.of(SeenTable.all(table), row.id()).getFirst().after().orElseThrow())
                .containsEntry("fixed", "AB")
                .containsEntry("twice", "2.50")
                .containsEntry("mood", "it's fine");
        var after = changed(table, row.id(), 1, values("fixed", text("cd"), "mood", Value.EMPTY), "Bram");
        assertThat(after.values()).containsEntry("fixed", text("CD")).containsEntry("mood", text("calm"));
        assertThat(other.fetchSingle(
                                "select _version, _changed_by, mood::text, fixed::text, tags::text from \"Things\" where id = 3")
                        .intoList())
                .containsExactly(2, "Bram", "calm", "CD", "{a,\"b c\"}");
    }

    @Test
    void aRemovedRecordComesBackWithAllThatItHeld() {
        other.execute(EVERYTHING);
        other.execute(
                "update \"Things\" set doc = '{\"x\": [1, 2]}', bytes = '\\x0102', ratio = 1e-7, took = '3 mons', place = '(1,2)'");
        var before = other.fetchSingle("select to_jsonb(t)::text from \"Things\" t where id = 1")
                .get(0, String.class);
        var table = adopt("Things");
        long id = sql.fetchSingle("select _id from " + sql.render(table.sqlName()) + " where _row = 1")
                .get(0, Long.class);
        records.delete(table, id, 1, "Odile");
        assertThat(other.fetchCount(DSL.table("\"Things\""))).isEqualTo(1);
        assertThat(history.restore(SeenTable.all(table), id, "Odile")
                        .orElseThrow()
                        .row())
                .isEqualTo(1);
        assertThat(other.fetchSingle(
                                "select (to_jsonb(t) - {0})::text from \"Things\" t where id = 1",
                                DSL.val(Plan.OWN.toArray(String[]::new)))
                        .get(0, String.class))
                .isEqualTo(before);
    }

    @Test
    void whatOthersWriteIsNumberedAndKept() {
        other.execute(EVERYTHING);
        var table = adopt("Things");
        other.execute(
                "insert into \"Things\" (\"Full Name\", \"select\", old_doc) values ('Fen', '', '{}'), ('Mill', 'x', null)");
        saved(table, values("full_name", text("Quill")), Optional.empty(), "Odile");
        other.execute("update \"Things\" set few = 7 where \"Full Name\" = 'Fen'");
        other.execute("update \"Things\" set few = 7 where \"Full Name\" = 'Fen'");
        other.execute("delete from \"Things\" where \"Full Name\" = 'Mill'");
        assertThat(other.fetch("select _row, _version, _entered_by from \"Things\" order by _row")
                        .map(row -> row.intoList()))
                .containsExactly(
                        List.of(1L, 1, "Odile"),
                        List.of(2L, 1, "Odile"),
                        List.of(3L, 2, "weft (till)"),
                        List.of(5L, 1, "Odile"));
        long id = other.fetchSingle("select _id from \"Things\" where _row = 3").get(0, Long.class);
        var entries = history.of(SeenTable.all(table), id);
        assertThat(entries)
                .extracting(History.Entry::action)
                .containsExactly(History.Action.CHANGED, History.Action.SAVED);
        assertThat(entries.getFirst().after().orElseThrow())
                .containsEntry("few", 7L)
                .containsEntry("full_name", "Fen");
        assertThat(records.find(SeenTable.all(table), id).orElseThrow().values())
                .containsEntry("select_", Value.EMPTY);
        assertThat(other.fetchSingle("select \"select\" from \"Things\" where _row = 3")
                        .get(0))
                .isEqualTo("");
        assertThatThrownBy(() -> other.execute("update \"Things\" set any_number = 'NaN'"))
                .hasMessageContaining("The column any_number cannot hold NaN.");
        other.execute("truncate \"Things\"");
        assertThat(history.removed(SeenTable.all(table), Optional.empty(), OptionalLong.empty(), 10))
                .hasSize(5);
    }

    @Test
    void foreignKeysBecomeLinks() {
        other.execute("""
                create table region (code char(2) primary key, name text not null unique);
                create table plot (region char(2) not null references region on update cascade, number int, label text,
                  primary key (region, number));
                create table visit (
                  id int primary key,
                  plot_region char(2) not null, plot_number int not null,
                  region char(2) references region on update cascade on delete set null,
                  again int references visit,
                  foreign key (plot_region, plot_number) references plot on update cascade on delete cascade);
                insert into region values ('NO', 'North'), ('SO', 'South');
                insert into plot values ('NO', 1, 'N1'), ('NO', 2, 'N2'), ('SO', 1, 'S1');
                insert into visit values (1, 'NO', 2, 'SO', null), (2, 'SO', 1, null, 1), (3, 'SO', 1, null, 3);
                """);
        assertThat(adoptions
                        .preview(schema, "plot", Optional.empty())
                        .orElseThrow()
                        .notes())
                .singleElement()
                .asString()
                .contains("region is not adopted. Adopt that one first");
        var region = adopt("region");
        var plot = adopt("plot");
        var visit = adopt("visit");
        assertThat(column(plot, "region").link().map(Link::to))
                .contains(region.definition().name());
        assertThat(column(visit, "plot").link().map(Link::to))
                .contains(plot.definition().name());
        assertThat(column(visit, "plot").required()).isTrue();
        assertThat(column(visit, "plot_number").shownOnly()).contains("It follows from Plot.");
        assertThat(column(visit, "again").link().map(Link::to))
                .contains(visit.definition().name());
        assertThat(linked(visit, 1)).containsExactly("N2", "SO", "");
        assertThat(linked(visit, 2)).containsExactly("S1", "", "1");
        assertThat(linked(visit, 3)).containsExactly("S1", "", "3");

        var first = sql.fetchSingle("select _id from " + sql.render(plot.sqlName()) + " where label = 'N1'")
                .get(0, Long.class);
        saved(
                visit,
                values("id", new Value.Whole(4), "plot", new Value.Link(first, 1, "N1")),
                Optional.empty(),
                "Odile");
        assertThat(other.fetchSingle("select plot_region, plot_number from visit where id = 4")
                        .intoList())
                .containsExactly("NO", 1);
        other.execute("update visit set plot_region = 'SO' where id = 4");
        assertThat(linked(visit, 4)).containsExactly("S1", "", "");
        other.execute("update visit set _link_plot = 1 where id = 4");
        assertThat(linked(visit, 4)).containsExactly("S1", "", "");
        other.execute("update region set code = 'SU' where code = 'SO'");
        assertThat(linked(visit, 4)).containsExactly("S1", "", "");
        assertThat(linked(visit, 1)).containsExactly("N2", "SU", "");

        // Weft empties the link that is made so, and refuses what would take rows along.
        long south = sql.fetchSingle("select _id from " + sql.render(region.sqlName()) + " where name = 'South'")
                .get(0, Long.class);
        assertThatThrownBy(() -> records.delete(region, south, 2, "Odile")).isInstanceOf(LinkedTo.class);
        // Another program's deletion cascades, and each row that goes is kept in history.
        other.execute("delete from plot where label = 'S1'");
        assertThat(history.removed(SeenTable.all(visit), Optional.empty(), OptionalLong.empty(), 10))
                .hasSize(3);
        records.delete(region, south, 2, "Odile");
        assertThat(linked(visit, 1)).containsExactly("N2", "", "");
    }

    private List<String> linked(StoredTable visit, int id) {
        long found = sql.fetchSingle("select _id from " + sql.render(visit.sqlName()) + " where id = " + id)
                .get(0, Long.class);
        var row = records.find(SeenTable.all(visit), found).orElseThrow();
        return List.of("plot", "region", "again").stream()
                .map(name -> row.values().get(name))
                .map(value -> value instanceof Value.Link(var _, var _, var shown) ? shown : "")
                .toList();
    }

    @Test
    void historyIsTheSameWhoeverWrites() {
        other.execute(EVERYTHING);
        other.execute(
                "create table about (id serial primary key, thing int references \"Things\", cost numeric(6,3), on_day date)");
        var things = adopt("Things");
        var about = adopt("about");
        saved(
                about,
                values(
                        "thing",
                        new Value.Link(2, 2, "Third"),
                        "cost",
                        new Value.Decimal(new BigDecimal("1.5")),
                        "on_day",
                        new Value.Day(LocalDate.of(2026, 2, 3))),
                Optional.empty(),
                "O");
        other.execute("insert into about (thing, cost, on_day) values (2, 1.5, '2026-02-03')");
        saved(
                things,
                values(
                        "full_name",
                        text("New"),
                        "any_number",
                        new Value.Decimal(new BigDecimal("1.10")),
                        "kind",
                        text("big")),
                Optional.empty(),
                "O");
        other.execute("insert into \"Things\" (\"Full Name\", any_number, kind) values ('New', 1.10, 'big')");
        for (var table : List.of(about, things)) {
            var last = sql.fetch(
                    "select after - 'id' - 'serial_no' as after, action, version from weft.history where table_id = {0} order by id",
                    table.id());
            assertThat(last).hasSize(2);
            assertThat(last.get(0).intoList()).isEqualTo(last.get(1).intoList());
        }
        var ids = sql.fetch("select _id from " + sql.render(about.sqlName()) + " order by _row")
                .getValues(0, Long.class);
        changed(about, ids.get(0), 1, values("thing", new Value.Link(1, 1, "Second"), "cost", Value.EMPTY), "O");
        other.execute("update about set thing = 1, cost = null where id = 2");
        var changes = sql.fetch(
                "select before - 'id' as before, after - 'id' as after from weft.history where table_id = {0} and action = 'changed' order by id",
                about.id());
        assertThat(changes.get(0).intoList()).isEqualTo(changes.get(1).intoList());
        assertThat(changes.get(0).get("after").toString()).contains("\"shown\":\"row 1\"");
    }

    @Test
    void manyWritersOfBothKindsLeaveNoHole() throws Exception {
        other.execute("create table busy (id serial primary key, word varchar(20) not null, n int)");
        other.execute("insert into busy (word) select 'before ' || i from generate_series(1, 50) i");
        var table = adopt("busy");
        var name = Sql.quoted(schema, "busy");
        try (var writers = Executors.newFixedThreadPool(8)) {
            var all = new ArrayList<Callable<Integer>>();
            for (int w = 0; w < 4; w++) {
                int writer = w;
                all.add(() -> {
                    for (int i = 0; i < 60; i++) {
                        var row = saved(
                                table, values("word", text("weft " + writer + "-" + i)), Optional.empty(), "Odile");
                        if (i % 5 == 0) {
                            changed(table, row.id(), 1, values("n", new Value.Whole(i)), "Odile");
                        }
                    }
                    return 60;
                });
                all.add(() -> {
                    int kept = 0;
                    try (var connection = TestDatabase.program("till " + writer)) {
                        connection.setAutoCommit(false);
                        var till = DSL.using(connection, SQLDialect.POSTGRES);
                        for (int i = 0; i < 30; i++) {
                            till.execute("insert into " + name + " (word) values ('a'), ('b')");
                            if (i % 7 == 0) {
                                connection.rollback();
                            } else {
                                till.execute("update " + name + " set n = 1 where id = (select max(id) from " + name
                                        + " where word = 'b' and n is null)");
                                connection.commit();
                                kept += 2;
                            }
                        }
                    }
                    return kept;
                });
            }
            int written = 0;
            for (var done : writers.invokeAll(all)) {
                written += done.get();
            }
            var rows = sql.fetch("select _row from " + name + " order by _row").getValues(0, Long.class);
            assertThat(rows)
                    .isEqualTo(LongStream.rangeClosed(1, 50 + written).boxed().toList());
            assertThat(sql.fetchCount(sql.selectOne()
                            .from("weft.history")
                            .where("table_id = " + table.id() + " and action = 'saved'")))
                    .isEqualTo(written);
            // Each version there is was kept once.
            assertThat(sql.fetchCount(sql.selectOne()
                            .from("weft.history")
                            .where("table_id = " + table.id() + " and action = 'changed'")))
                    .isEqualTo(sql.fetchSingle("select sum(_version - 1)::int from " + name)
                            .get(0, Integer.class));
        }
    }

    @Test
    void whatTheTableRefusesIsSaidOfItsField() {
        other.execute(EVERYTHING);
        other.execute("create table note (id int primary key, thing int references \"Things\", of_day date)");
        other.execute("""
                create function moody() returns trigger language plpgsql as $$
                begin if new.few = 13 then raise exception 'Thirteen is unlucky.'; end if; return new; end $$;
                create trigger moody before insert on "Things" for each row execute function moody()""");
        other.execute("insert into note values (1, 1)");
        var note = adopt("note");
        var table = adopt("Things");
        refused(table, NotSaved.Reason.BROKEN, "code", "code", text("abc"));
        refused(table, NotSaved.Reason.BROKEN, "few", "few", new Value.Whole(5), "many", new Value.Whole(5));
        refused(table, NotSaved.Reason.NOT_UNIQUE, "code", "code", text("ABC"));
        refused(note, NotSaved.Reason.NOWHERE, "thing", "id", new Value.Whole(8), "thing", new Value.Whole(99));
        assertThatThrownBy(() ->
                        saved(table, values("full_name", text("x"), "few", new Value.Whole(13)), Optional.empty(), "O"))
                .isInstanceOfSatisfying(
                        NotSaved.class, e -> assertThat(e.said()).isEqualTo("Thirteen is unlucky."));
        long first = sql.fetchSingle("select _id from " + sql.render(table.sqlName()) + " where _row = 1")
                .get(0, Long.class);
        assertThatThrownBy(() -> records.delete(table, first, 1, "Odile"))
                .isInstanceOfSatisfying(
                        LinkedTo.class, e -> assertThat(e.sentence()).startsWith("Rows of note lead to this record"));
        assertThatThrownBy(() -> columns.remove(note.definition().name(), "of_day"))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("was not made by Weft");
    }

    private void refused(StoredTable table, NotSaved.Reason reason, String column, Object... values) {
        var given = new java.util.LinkedHashMap<>(values(values));
        if (table.definition().column("full_name").isPresent()) {
            given.put("full_name", text("x"));
        }
        if (reason == NotSaved.Reason.NOT_UNIQUE) {
            saved(table, given, Optional.empty(), "Odile");
        }
        assertThatThrownBy(() -> saved(table, given, Optional.empty(), "Odile"))
                .isInstanceOfSatisfying(NotSaved.class, e -> {
                    assertThat(e.reason()).isEqualTo(reason);
                    assertThat(e.column()).contains(column);
                });
    }

    @Test
    void whatCannotBeAdoptedIsToldInASentence() {
        other.execute("""
                create table needs (id int primary key, doc jsonb not null);
                create table parts (id int, on_day date) partition by range (on_day);
                create table parent (id int); create table child () inherits (parent);
                create table secret (id int); alter table secret enable row level security;
                create table own (id int, _row int);
                create table nothing ();
                create view wordy as select 'a' as word;
                """);
        var said = Map.of(
                "needs", "Every row needs a value in doc",
                "parts", "a table in parts",
                "parent", "inherits",
                "child", "inherits",
                "secret", "who may see which rows",
                "own", "a column named _row",
                "nothing", "no column",
                "wordy", "A view needs a column of whole numbers");
        said.forEach((name, words) -> {
            assertThat(adoptions
                            .preview(schema, name, Optional.empty())
                            .orElseThrow()
                            .refused())
                    .as(name)
                    .anySatisfy(each -> assertThat(each).contains(words));
            assertThatThrownBy(() -> adopt(name)).isInstanceOf(Faults.class).hasMessageContaining(words);
        });
        assertThat(adoptions.preview(schema, "gone", Optional.empty())).isEmpty();
        assertThat(adoptions.preview("weft", "person", Optional.empty())).isEmpty();
        other.execute("create table twice (id int)");
        adopt("twice");
        assertThatThrownBy(() -> adopt("twice")).isInstanceOf(Faults.class).hasMessageContaining("adopted already");
    }

    @Test
    void aViewIsShown() {
        other.execute("create table t (id int, word text); insert into t values (3, 'c'), (1, 'a'), (1, 'b');"
                + " create view v as select id, word from t");
        assertThatThrownBy(() -> adopt("v")).isInstanceOf(Faults.class).hasMessageContaining("has a number twice");
        other.execute("delete from t where word = 'b'");
        var table = adopt("v");
        assertThat(table.definition().shownOnly()).isTrue();
        assertThat(new weft.store.table.Tables(sql).rows(table)).isEqualTo(2);
        other.execute("insert into t values (8, 'd')");
        assertThat(new weft.store.table.Tables(sql).rows(table)).isEqualTo(3);
        assertThat(new weft.store.table.Tables(sql).lastRow(table)).isEqualTo(8);
        assertThat(records.find(SeenTable.all(table), 8).orElseThrow().values()).containsEntry("word", text("d"));
        assertThatThrownBy(() -> saved(table, values("word", text("e")), Optional.empty(), "Odile"))
                .isInstanceOfSatisfying(
                        NotSaved.class, e -> assertThat(e.reason()).isEqualTo(NotSaved.Reason.SHOWN_ONLY));
        columns.delete(table.definition().name());
        assertThat(other.fetchCount(DSL.table("v"))).isEqualTo(3);
    }

    @Test
    void aUserWhoMayOnlyWriteToTheTableCanStillDoThat() {
        other.execute("create table solely (id int primary key, on_day date); create role clerk_" + SCHEMAS.get());
        var clerk = "clerk_" + SCHEMAS.get();
        other.execute("grant usage on schema " + Sql.quoted(schema) + " to " + clerk);
        other.execute("grant select (id), insert (id, on_day), update (on_day) on solely to " + clerk);
        var table = adopt("solely");
        other.execute("set role " + clerk);
        other.execute("insert into solely values (1, '2026-01-02')");
        other.execute("update solely set on_day = '2026-01-03' where id = 1");
        other.execute("reset role");
        assertThat(only(table).values()).containsEntry("on_day", new Value.Day(LocalDate.of(2026, 1, 3)));
        assertThat(history.of(SeenTable.all(table), only(table).id())).hasSize(2);
    }

    @Test
    void aTableThatSomebodyDroppedIsLetGoAllTheSame() {
        other.execute("create table short (id int primary key, word text)");
        var table = adopt("short");
        assertThatThrownBy(() -> other.execute("drop table short")).hasMessageContaining("depend on it");
        saved(table, values("id", new Value.Whole(1)), Optional.empty(), "Odile");
        other.execute("drop table short cascade");
        columns.delete(table.definition().name());
        other.execute("create table short (id int primary key)");
        adopt("short");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"a;b", "a%sb", "a\\b", "a\"b", "a'b", "a?b", "a{0}b", "a:b", "a/b", "a b", "ä", "$1", "--", "/*"
            })
    void whateverSqlLetsATableBeCalledItIsAdoptedAndLetGo(String name) throws SQLException {
        var quoted = Sql.quoted(name);
        try (var statement = program.createStatement()) {
            statement.execute("create table " + quoted + " (id bigint primary key, " + quoted + " text check (" + quoted
                    + " <> '')" + ")");
            statement.execute("insert into " + quoted + " values (7, 'seven')");
        }
        assertThat(adoptions.preview(schema, name, Optional.empty())).isPresent();
        var table = adopt(name);
        var called = table.definition().columns().getLast().name();
        var there = records.find(SeenTable.all(table), 1).orElseThrow();
        assertThat(there.of(called)).isEqualTo(text("seven"));
        var next = saved(
                table,
                Map.of(table.definition().columns().getFirst().name(), new Value.Whole(8), called, text("eight")),
                Optional.empty(),
                "Odile");
        assertThat(next.of(called)).isEqualTo(text("eight"));
        columns.delete(table.definition().name());
        try (var statement = program.createStatement();
                var rows = statement.executeQuery("select count(*) from " + quoted)) {
            rows.next();
            assertThat(rows.getInt(1)).isEqualTo(2);
        }
    }
}
