package weft.store.table;

import static weft.store.schema.Tables.COLUMN_DEF;
import static weft.store.schema.Tables.FREE_ROW;
import static weft.store.schema.Tables.ROW_COUNTER;
import static weft.store.schema.Tables.TABLE_DEF;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.Record2;
import org.jooq.SQLDialect;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.event.Change;
import weft.store.event.Telling;

/** The tables there are. */
public final class Tables {

    private static final JsonMapper JSON = JsonMapper.shared();

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Tables(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * A table in the list of all.
     *
     * @param rows how many records it holds
     */
    public record Listed(String name, String title, long rows) {}

    /**
     * Makes the table: its definition, its row counter and the real SQL table, all or nothing.
     *
     * @throws Faults when there is a table of that name
     */
    public StoredTable make(Table table) {
        try {
            return Retried.result(sql, inner -> make(inner.dsl(), table));
        } catch (DataAccessException e) {
            if (e.sqlState().startsWith("235") || e.sqlState().equals("42P07")) {
                throw taken(table);
            }
            throw e;
        }
    }

    private static Faults taken(Table table) {
        return new Faults("name", "There is a table named " + table.name() + " already. Choose another name.");
    }

    /**
     * The same within a transaction of the caller's, one that is {@link Retried}.
     *
     * @throws Faults when there is a table of that name
     */
    public StoredTable make(DSLContext within, Table table) {
        long id = within.insertInto(TABLE_DEF, TABLE_DEF.NAME, TABLE_DEF.TITLE, TABLE_DEF.PLACEMENT)
                .values(table.name(), table.title(), table.placement())
                .onConflictDoNothing()
                .returning(TABLE_DEF.ID)
                .fetchOptional(TABLE_DEF.ID)
                .orElseThrow(() -> taken(table));
        var stored = new StoredTable(id, table, keepAll(within, id, table));
        within.insertInto(ROW_COUNTER, ROW_COUNTER.TABLE_ID, ROW_COUNTER.NEXT_ROW)
                .values(id, 1L)
                .execute();
        TableSql.create(stored, new Tables(within)).forEach(within::execute);
        Telling.tell(within, new Change.OfTable(id));
        return stored;
    }

    /** Keeps the definitions of a table's columns, and says the identity of each. A link may lead to the table itself. */
    private static Map<String, Long> keepAll(DSLContext within, long table, Table definition) {
        var ids = new LinkedHashMap<String, Long>();
        for (var column : definition.columns()) {
            ids.put(column.name(), kept(within, table, ids.size(), column));
        }
        ids.forEach((name, id) -> definition
                .column(name)
                .filter(column -> column.link().isPresent())
                .ifPresent(column -> keepLink(within, id, column)));
        return Map.copyOf(ids);
    }

    /**
     * Keeps the definition of a table that is being adopted, within a transaction of the caller's, who has the view made.
     *
     * @param adopted its schema and name
     * @param view whether it is a view
     * @param rows how many rows it has
     * @throws Faults when there is a table of that name
     */
    public static StoredTable adopt(DSLContext within, Table table, String adopted, boolean view, long rows) {
        long id = within.insertInto(TABLE_DEF, TABLE_DEF.NAME, TABLE_DEF.TITLE, TABLE_DEF.PLACEMENT)
                .values(table.name(), table.title(), table.placement())
                .onConflictDoNothing()
                .returning(TABLE_DEF.ID)
                .fetchOptional(TABLE_DEF.ID)
                .orElseThrow(() -> taken(table));
        within.update(TABLE_DEF)
                .set(TABLE_DEF.ADOPTED, adopted)
                .set(TABLE_DEF.IS_VIEW, view)
                .where(TABLE_DEF.ID.eq(id))
                .execute();
        within.insertInto(ROW_COUNTER, ROW_COUNTER.TABLE_ID, ROW_COUNTER.NEXT_ROW)
                .values(id, rows + 1)
                .execute();
        return new StoredTable(id, table, keepAll(within, id, table));
    }

    /** Keeps the definition of a new column and says its identity. */
    static long keep(DSLContext within, long table, int place, Column column) {
        long id = kept(within, table, place, column);
        keepLink(within, id, column);
        return id;
    }

    /** Keeps where a column links to, by the identities of the table and of the columns shown. */
    static void keepLink(DSLContext within, long id, Column column) {
        var to = column.link().flatMap(link -> new Tables(within).find(link.to()));
        var shown = column.link().map(Link::shown).orElse(List.of()).stream()
                .map(each -> to.orElseThrow().columnId(each.name()))
                .toList();
        within.update(COLUMN_DEF)
                .set(COLUMN_DEF.LINK_TO, to.map(StoredTable::id).orElse(null))
                .set(COLUMN_DEF.LINK_SHOWN, to.isEmpty() ? null : JSONB.valueOf(JSON.writeValueAsString(shown)))
                .where(COLUMN_DEF.ID.eq(id))
                .execute();
    }

    private static long kept(DSLContext within, long table, int place, Column column) {
        return within.insertInto(COLUMN_DEF)
                .set(COLUMN_DEF.TABLE_ID, table)
                .set(COLUMN_DEF.PLACE, place)
                .set(definition(column))
                .returning(COLUMN_DEF.ID)
                .fetchSingle(COLUMN_DEF.ID);
    }

    /** What is kept of a column's definition, besides its place. */
    static Record definition(Column column) {
        return DSL.using(SQLDialect.POSTGRES)
                .newRecord(COLUMN_DEF)
                .with(COLUMN_DEF.NAME, column.name())
                .with(COLUMN_DEF.TITLE, column.title())
                .with(COLUMN_DEF.TYPE, column.type())
                .with(COLUMN_DEF.REQUIRED, column.required())
                .with(COLUMN_DEF.IS_UNIQUE, column.unique())
                .with(
                        COLUMN_DEF.SCALE,
                        column.scale().isPresent() ? column.scale().getAsInt() : null)
                .with(COLUMN_DEF.MIN_VALUE, column.min().map(Value::plain).orElse(null))
                .with(COLUMN_DEF.MAX_VALUE, column.max().map(Value::plain).orElse(null))
                .with(COLUMN_DEF.CHOICES, JSONB.valueOf(JSON.writeValueAsString(column.choices())))
                .with(
                        COLUMN_DEF.USUAL_LENGTH,
                        column.usualLength().isPresent() ? column.usualLength().getAsInt() : null)
                .with(COLUMN_DEF.LINK_REMOVED, column.link().map(Link::removed).orElse(null))
                .with(
                        COLUMN_DEF.LONGEST,
                        column.longest().isPresent() ? column.longest().getAsInt() : null)
                .with(COLUMN_DEF.SHOWN_ONLY, column.shownOnly().orElse(null))
                .with(COLUMN_DEF.FORMER, JSONB.valueOf(JSON.writeValueAsString(column.former())));
    }

    /** The table of that name, or empty. */
    public Optional<StoredTable> find(String name) {
        return find(TABLE_DEF.NAME.eq(name));
    }

    /** The table of that identity, or empty. */
    public Optional<StoredTable> find(long id) {
        return find(TABLE_DEF.ID.eq(id));
    }

    private Optional<StoredTable> find(Condition which) {
        return sql.selectFrom(TABLE_DEF).where(which).fetchOptional().map(row -> {
            var columns = sql.selectFrom(COLUMN_DEF)
                    .where(COLUMN_DEF.TABLE_ID.eq(row.get(TABLE_DEF.ID)))
                    .orderBy(COLUMN_DEF.PLACE)
                    .fetch();
            var table = new Table(
                    row.get(TABLE_DEF.NAME),
                    row.get(TABLE_DEF.TITLE),
                    columns.map(this::column),
                    row.get(TABLE_DEF.PLACEMENT),
                    List.of(),
                    row.get(TABLE_DEF.ADOPTED) != null);
            return new StoredTable(
                    row.get(TABLE_DEF.ID),
                    table.holding(Constraints.of(sql, row.get(TABLE_DEF.ID), table)),
                    columns.intoMap(COLUMN_DEF.NAME, COLUMN_DEF.ID),
                    row.get(TABLE_DEF.ADOPTED) == null
                            ? Optional.empty()
                            : AdoptedTable.of(sql, row.get(TABLE_DEF.ID), columns));
        });
    }

    private Column column(Record row) {
        var bare = Column.plain(row.get(COLUMN_DEF.NAME), row.get(COLUMN_DEF.TITLE), row.get(COLUMN_DEF.TYPE))
                .required(row.get(COLUMN_DEF.REQUIRED))
                .unique(row.get(COLUMN_DEF.IS_UNIQUE))
                .scaled(optional(row.get(COLUMN_DEF.SCALE)))
                .of(texts(row.get(COLUMN_DEF.CHOICES)))
                .usually(optional(row.get(COLUMN_DEF.USUAL_LENGTH)))
                .once(texts(row.get(COLUMN_DEF.FORMER)))
                .upTo(optional(row.get(COLUMN_DEF.LONGEST)))
                .onlyShown(Optional.ofNullable(row.get(COLUMN_DEF.SHOWN_ONLY)))
                .leading(Optional.ofNullable(row.get(COLUMN_DEF.LINK_TO)).map(to -> link(row, to)));
        return bare.within(bound(bare, row.get(COLUMN_DEF.MIN_VALUE)), bound(bare, row.get(COLUMN_DEF.MAX_VALUE)));
    }

    /** Of the columns shown, those that are still there and can be. */
    private Link link(Record row, long to) {
        var ids = JSON.readValue(row.get(COLUMN_DEF.LINK_SHOWN).data(), new TypeReference<List<Long>>() {});
        var there = sql.selectFrom(COLUMN_DEF)
                .where(COLUMN_DEF.TABLE_ID.eq(to))
                .and(COLUMN_DEF.ID.in(ids))
                .and(COLUMN_DEF.LINK_TO.isNull())
                .fetchMap(COLUMN_DEF.ID, this::column);
        var target = sql.select(TABLE_DEF.NAME, TABLE_DEF.TITLE)
                .from(TABLE_DEF)
                .where(TABLE_DEF.ID.eq(to))
                .fetchSingle();
        return new Link(
                target.value1(),
                target.value2(),
                ids.stream()
                        .filter(there::containsKey)
                        .map(there::get)
                        .filter(column -> Link.shows(column.type()))
                        .toList(),
                row.get(COLUMN_DEF.LINK_REMOVED));
    }

    /**
     * The columns of any table that link to one.
     *
     * @param in the table that has the column
     */
    public record Linking(StoredTable in, Column column, Link link) {}

    /** Where records of a table are linked to, by table and column. */
    public List<Linking> linkingTo(StoredTable table) {
        return sql
                .select(COLUMN_DEF.TABLE_ID, COLUMN_DEF.NAME)
                .from(COLUMN_DEF)
                .where(COLUMN_DEF.LINK_TO.eq(table.id()))
                .orderBy(COLUMN_DEF.TABLE_ID, COLUMN_DEF.PLACE)
                .fetch()
                .stream()
                .flatMap(row -> find(row.value1())
                        .flatMap(in -> in.definition()
                                .column(row.value2())
                                .map(column ->
                                        new Linking(in, column, column.link().orElseThrow())))
                        .stream())
                .toList();
    }

    private static List<String> texts(JSONB json) {
        return JSON.readValue(json.data(), new TypeReference<List<String>>() {});
    }

    private static OptionalInt optional(Integer number) {
        return number == null ? OptionalInt.empty() : OptionalInt.of(number);
    }

    private static Optional<Value> bound(Column column, String plain) {
        return plain == null
                ? Optional.empty()
                : switch (ValueReader.ofStored(Conventions.DEFAULT).read(column.kind(), plain)) {
                    case Reading.Read(var value, var _) -> Optional.of(value);
                    case Reading.Refused _ -> throw new IllegalStateException("bound of " + column.name());
                };
    }

    /** Every table by title, with how many records it holds. */
    public List<Listed> list() {
        return sql.select(TABLE_DEF.NAME, TABLE_DEF.TITLE, rows())
                .from(TABLE_DEF)
                .join(ROW_COUNTER)
                .on(ROW_COUNTER.TABLE_ID.eq(TABLE_DEF.ID))
                .orderBy(DSL.lower(TABLE_DEF.TITLE), TABLE_DEF.NAME)
                .fetch(row -> new Listed(row.value1(), row.value2(), row.value3()));
    }

    /** How many records each table holds, by its name; without views, whose records are only counted when one asks for them. */
    public Map<String, Long> counts() {
        return sql.select(TABLE_DEF.NAME, rows())
                .from(TABLE_DEF)
                .join(ROW_COUNTER)
                .on(ROW_COUNTER.TABLE_ID.eq(TABLE_DEF.ID))
                .where(DSL.not(TABLE_DEF.IS_VIEW))
                .fetchMap(Record2::value1, Record2::value2);
    }

    /**
     * What another program took out of the database though it stands here still.
     *
     * @param column the column; empty where the whole table is gone
     */
    public record TakenAway(String table, Optional<String> column, String words) {}

    /** All of it: “Samples”, “pH of Samples”. */
    public List<TakenAway> takenAway() {
        return sql.resultQuery("""
                        select t.name, null as in_it, t.title as words from weft.table_def t
                        where to_regclass(format('records.%I', t.name)) is null
                        union all
                        select t.name, c.name, c.title || ' of ' || t.title from weft.column_def c
                        join weft.table_def t on t.id = c.table_id
                        join pg_class r on r.oid = to_regclass(format('records.%I', t.name))
                        where not exists (
                          select from pg_attribute a where a.attrelid = r.oid and a.attname = c.name and not a.attisdropped
                        )
                        order by words""")
                .fetch(row -> new TakenAway(
                        row.get(0, String.class),
                        Optional.ofNullable(row.get(1, String.class)),
                        row.get(2, String.class)));
    }

    /** How many records a table holds, at no cost that grows with it. */
    public long rows(StoredTable table) {
        return sql.select(rows())
                .from(TABLE_DEF)
                .join(ROW_COUNTER)
                .on(ROW_COUNTER.TABLE_ID.eq(TABLE_DEF.ID))
                .where(TABLE_DEF.ID.eq(table.id()))
                .fetchSingle(0, Long.class);
    }

    /** The highest row number ever given; 0 when there is none. */
    public long lastRow(StoredTable table) {
        return sql.select(DSL.when(TABLE_DEF.IS_VIEW, shown("last_row")).otherwise(ROW_COUNTER.NEXT_ROW.minus(1)))
                .from(TABLE_DEF)
                .join(ROW_COUNTER)
                .on(ROW_COUNTER.TABLE_ID.eq(TABLE_DEF.ID))
                .where(TABLE_DEF.ID.eq(table.id()))
                .fetchSingle(0, Long.class);
    }

    /** Every row number ever given is either a record's or free; a view's are counted. */
    private static Field<Long> rows() {
        return DSL.when(TABLE_DEF.IS_VIEW, shown("records"))
                .otherwise(ROW_COUNTER
                        .NEXT_ROW
                        .minus(1)
                        .minus(DSL.field(DSL.selectCount().from(FREE_ROW).where(FREE_ROW.TABLE_ID.eq(TABLE_DEF.ID)))));
    }

    private static Field<Long> shown(String what) {
        return DSL.field("(select s.{0} from weft.shown({1}) s)", Long.class, DSL.name(what), TABLE_DEF.ID);
    }
}
