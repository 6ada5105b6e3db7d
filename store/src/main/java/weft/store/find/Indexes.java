package weft.store.find;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.CRC32;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.slf4j.event.Level;
import weft.core.alike.Near;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.store.Database;
import weft.store.form.Forms;
import weft.store.form.PublishedForms;
import weft.store.table.NearSql;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/**
 * Keeps the indexes by which the records of large tables are sorted and found: for each column that a published form
 * shows, one on its values, and for text one more on its parts; for each by which rules look records up, one on the bare value;
 * and one each on when records were entered and changed. They are built beside the entries that go on meanwhile; those that no
 * form needs any longer are let go.
 */
public final class Indexes {

    /** Below so many records none is felt, and each would only cost the inserts. */
    public static final int FROM_ROWS = 5_000;

    /** Below so many, what is nearly alike is found by looking at each. */
    public static final int NEAR_FROM_ROWS = 50;

    private static final Logger LOG = LoggerFactory.getLogger(Indexes.class);
    /** What PostgreSQL says of work that was broken off, or ended since it waited for another one in a circle. */
    private static final Set<String> GAVE_WAY = Set.of("57014", "40P01");

    private static final String VALUES = "values_";
    /** Of values that are sorted as words are. */
    private static final String CHOICES = "choices_";

    private static final String PARTS = "parts_";
    private static final String KEYS = "keys_";
    private static final String TIMES = "times_";

    /** Makes the lock of this work another one than the locks of records. */
    private static final long LOCK = 0x77656674L << 32;

    private final DSLContext sql;
    private final DataSource source;
    private final Tables tables;
    private final Forms forms;
    private final AtomicLong missing = new AtomicLong();

    /** In that database. */
    public Indexes(Database database, Tables tables, Forms forms) {
        this.sql = database.sql();
        this.source = database.longSource();
        this.tables = tables;
        this.forms = forms;
    }

    /** Brings the indexes of every table up to what its forms need; one server at a time works on a table. */
    public void keep() {
        var published = forms.published();
        var lacking = tables.list().stream()
                .filter(listed -> listed.rows() >= NEAR_FROM_ROWS)
                .flatMap(listed -> tables.find(listed.name()).stream()
                        .map(table -> lacks(table, listed.rows() >= FROM_ROWS, published)))
                .filter(Lacks::any)
                .toList();
        missing.set(lacking.stream().mapToLong(Lacks::many).sum());
        for (var lacks : lacking) {
            // One that was changed meanwhile is looked after again for that.
            if (tables.find(lacks.table().id()).equals(Optional.of(lacks.table())) && build(lacks)) {
                missing.addAndGet(-lacks.many());
            }
        }
    }

    /** How many indexes are needed and were not there when that was looked at last, in all tables. */
    public long missing() {
        return missing.get();
    }

    /** What a table's indexes need to be, by name, and which are there. */
    private record Lacks(StoredTable table, Map<String, String> needed, List<String> there) {

        boolean any() {
            return !there.equals(needed.keySet().stream().sorted().toList());
        }

        long many() {
            return needed.keySet().stream()
                    .filter(name -> !there.contains(name))
                    .count();
        }
    }

    private Lacks lacks(StoredTable table, boolean large, PublishedForms published) {
        return new Lacks(table, needed(table, large, published), there(table, large));
    }

    /** Brings the indexes of one table up to what its forms need, whatever its size. */
    public void keep(StoredTable table) {
        var lacks = lacks(table, true, forms.published());
        if (lacks.any()) {
            build(lacks);
        }
    }

    /** Whether it was done. */
    private boolean build(Lacks lacks) {
        var table = lacks.table();
        try (var connection = source.getConnection()) {
            if (!locked(connection, table, "pg_try_advisory_lock")) {
                return false;
            }
            try {
                work(connection, lacks);
            } finally {
                locked(connection, table, "pg_advisory_unlock");
            }
            return true;
        } catch (SQLException e) {
            // It gives way to whoever changes the table.
            LOG.atLevel(GAVE_WAY.contains(e.getSQLState()) ? Level.INFO : Level.WARN)
                    .log(
                            "indexes of table {} could not be built (SQL state {}); they are tried again",
                            table.id(),
                            e.getSQLState());
            return false;
        }
    }

    private void work(Connection connection, Lacks lacks) throws SQLException {
        var table = lacks.table();
        try (var statement = connection.createStatement()) {
            // A build that was broken off leaves an index behind that is never used.
            for (var name : broken(table)) {
                drop(statement, table, name);
            }
            for (var name : lacks.there()) {
                if (!lacks.needed().containsKey(name)) {
                    drop(statement, table, name);
                }
            }
            for (var each : lacks.needed().entrySet()) {
                if (!lacks.there().contains(each.getKey())) {
                    statement.execute("create index concurrently if not exists " + each.getKey() + " on "
                            + sql.render(table.relation()) + " " + each.getValue());
                }
            }
            statement.execute("analyze " + sql.render(table.relation()));
        }
    }

    private void drop(Statement statement, StoredTable table, String name) throws SQLException {
        statement.execute("drop index concurrently if exists "
                + sql.render(table.relation().qualifier()) + "." + name);
    }

    private static boolean locked(Connection connection, StoredTable table, String how) throws SQLException {
        try (var statement = connection.createStatement();
                var answer = statement.executeQuery("select " + how + "(" + (LOCK + table.id()) + ")")) {
            return answer.next() && answer.getBoolean(1);
        }
    }

    /**
     * What each index is made on, by its name.
     *
     * @param large whether it is a table of which more is indexed than what is nearly alike
     */
    private Map<String, String> needed(StoredTable table, boolean large, PublishedForms published) {
        if (table.definition().shownOnly()) {
            return Map.of();
        }
        var lookedUp = lookedUp(table, published);
        var columns = large ? onColumns(table, lookedUp, published) : new LinkedHashMap<String, String>();
        columns.putAll(near(table, lookedUp, published));
        var needed = new LinkedHashMap<>(
                table.adopted().map(adopted -> adopted(table, adopted, columns)).orElse(columns));
        if (!large) {
            return needed;
        }
        // Records mostly lie in the order in which they were entered.
        needed.put(TIMES + table.id() + "_entered", "using brin (_entered_at) with (autosummarize = on)");
        needed.put(TIMES + table.id() + "_changed", "(_changed_at) where _changed_at is not null");
        return needed;
    }

    /** Of an adopted table, on what the view that stands for it makes of its columns, where an index can be made on that. */
    private Map<String, String> adopted(StoredTable table, StoredTable.Adopted adopted, Map<String, String> columns) {
        var needed = new LinkedHashMap<String, String>();
        columns.forEach((name, on) -> table.definition().columns().stream()
                .filter(column -> on.contains(sql.render(DSL.name(column.name()))))
                .findFirst()
                .map(Column::name)
                .filter(adopted.seen()::containsKey)
                .ifPresent(column -> needed.put(
                        name,
                        on.replace(
                                sql.render(DSL.name(column)),
                                "(" + adopted.seen().get(column) + ")"))));
        return needed;
    }

    /** For each column of words that a rule of a published form compares, and for each that records are looked up by. */
    private Map<String, String> near(StoredTable table, Set<String> lookedUp, PublishedForms published) {
        var compared = published.on(table.definition().name()).stream()
                .flatMap(form -> form.rules().checks().stream())
                .flatMap(check -> check.rule() instanceof Check.Alike alike ? alike.columns().stream() : Stream.empty())
                .collect(Collectors.toSet());
        var needed = new LinkedHashMap<String, String>();
        table.definition().columns().stream()
                .filter(column ->
                        lookedUp.contains(column.name()) && FindSql.isText(column) || compared.contains(column.name()))
                .filter(Near::isWords)
                .forEach(column -> needed.put(NearSql.index(table, column), NearSql.indexed(column)));
        return needed;
    }

    private Set<String> lookedUp(StoredTable table, PublishedForms published) {
        var lookedUp = new HashSet<>(published.lookedUpIn(table.definition().name()));
        tables.linkingTo(table)
                .forEach(linking -> linking.link().shown().forEach(column -> lookedUp.add(column.name())));
        return lookedUp;
    }

    private Map<String, String> onColumns(StoredTable table, Set<String> lookedUp, PublishedForms published) {
        var shown = published.on(table.definition().name()).stream()
                .flatMap(form -> form.fields())
                .map(field -> field.column())
                .collect(Collectors.toSet());
        var needed = new LinkedHashMap<String, String>();
        for (var column : table.definition().columns()) {
            if (shown.contains(column.name()) && column.link().isEmpty()) {
                needed.put(
                        named(column.type() == ColumnType.CHOICE ? CHOICES : VALUES, table, column),
                        "((" + sql.render(FindSql.key(column)) + "), _row)");
                if (FindSql.isText(column)) {
                    needed.put(
                            named(PARTS, table, column),
                            "using gin ((" + sql.render(FindSql.whole(column)) + ") " + trigrams() + ")");
                }
            }
        }
        // Keys are typed in any case.
        table.definition().columns().stream()
                .filter(column -> lookedUp.contains(column.name()) && FindSql.isText(column))
                .forEach(column ->
                        needed.put(named(VALUES, table, column), "((" + sql.render(FindSql.key(column)) + "), _row)"));
        table.definition().columns().stream()
                .filter(column -> lookedUp.contains(column.name()) && !column.unique())
                .forEach(column ->
                        needed.put(named(KEYS, table, column), "(" + sql.render(DSL.name(column.name())) + ", _row)"));
        return needed;
    }

    /** The extension may stand in another schema, where an operator put it. */
    private String trigrams() {
        return sql.fetchSingle("select quote_ident(nspname) || '.gin_trgm_ops' from pg_extension"
                        + " join pg_namespace n on n.oid = extnamespace where extname = 'pg_trgm'")
                .get(0, String.class);
    }

    private static String named(String what, StoredTable table, Column column) {
        var sum = new CRC32();
        sum.update(column.name().getBytes(StandardCharsets.UTF_8));
        return what + table.id() + "_" + Long.toHexString(sum.getValue());
    }

    private List<String> there(StoredTable table, boolean large) {
        return ours(table, true).stream()
                .filter(name -> large || name.startsWith(NearSql.NEAR))
                .toList();
    }

    private List<String> broken(StoredTable table) {
        return ours(table, false);
    }

    private List<String> ours(StoredTable table, boolean valid) {
        return sql.fetch(
                        "select c.relname from pg_index i join pg_class c on c.oid = i.indexrelid"
                                + " where i.indrelid = {0}::regclass and i.indisvalid = {1}"
                                + " and c.relname ~ {2} order by c.relname collate \"C\"",
                        DSL.inline(sql.render(table.relation())),
                        DSL.inline(valid),
                        DSL.inline("^(" + VALUES + "|" + CHOICES + "|" + PARTS + "|" + KEYS + "|" + TIMES + "|"
                                + NearSql.NEAR + ")" + table.id() + "_"))
                .getValues(0, String.class);
    }
}
