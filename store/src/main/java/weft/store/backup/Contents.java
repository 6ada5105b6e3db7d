package weft.store.backup;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import weft.store.local.CannotStart;

/**
 * What is in a database at one moment.
 *
 * @param schema the number of the last migration that it went through
 * @param tables every table of Weft's, with how much is in it
 * @param held the names of what holds of them: constraints, indexes and triggers
 */
record Contents(int schema, List<TableContents> tables, List<String> held) {

    /** What ends with the servers that know of it, and is not kept: sessions, seats, what was tried too often. */
    static final Set<String> PASSING =
            Set.of("weft.session", "weft.session_attributes", "weft.seat", "weft.taken", "weft.failed_sign_in");

    private static final String OURS = "in ('weft', 'records')";

    /**
     * A table.
     *
     * @param rows how many rows it has
     * @param sum of all its rows, in whatever order they lie: the same for the same rows
     */
    record TableContents(String table, long rows, String sum) {}

    /** Of the database as that connection sees it. */
    static Contents of(Connection connection) throws SQLException {
        if (texts(connection, "select 1 where to_regclass('weft.flyway_schema_history') is not null")
                .isEmpty()) {
            throw new CannotStart("There is no Weft in this database.");
        }
        var tables = new ArrayList<TableContents>();
        for (var table : texts(
                connection,
                "select format('%I.%I', schemaname, tablename) from pg_tables where schemaname " + OURS
                        + " order by 1")) {
            if (!PASSING.contains(table)) {
                tables.add(of(connection, table));
            }
        }
        var held = new TreeSet<>(texts(
                connection,
                "select conrelid::regclass || ' ' || conname from pg_constraint where convalidated and connamespace::regnamespace::text "
                        + OURS));
        held.addAll(texts(connection, "select indexname from pg_indexes where schemaname " + OURS));
        held.addAll(texts(
                connection,
                "select tgrelid::regclass || ' ' || tgname from pg_trigger t join pg_class c on c.oid = tgrelid"
                        + " where not tgisinternal and c.relnamespace::regnamespace::text " + OURS));
        return new Contents(
                Integer.parseInt(texts(
                                connection,
                                "select version from weft.flyway_schema_history where success and version is not null"
                                        + " order by installed_rank desc limit 1")
                        .getFirst()),
                List.copyOf(tables),
                List.copyOf(held));
    }

    private static TableContents of(Connection connection, String table) throws SQLException {
        try (var statement = connection.createStatement();
                var found = statement.executeQuery(
                        "select count(*), coalesce(sum(hashtextextended(t::text, 0)::numeric), 0)::text from " + table
                                + " t")) {
            found.next();
            return new TableContents(table, found.getLong(1), found.getString(2));
        }
    }

    static List<String> texts(Connection connection, String query) throws SQLException {
        try (var statement = connection.createStatement();
                var found = statement.executeQuery(query)) {
            var texts = new ArrayList<String>();
            while (found.next()) {
                texts.add(found.getString(1));
            }
            return texts;
        }
    }

    /** How many rows there are in all. */
    long rows() {
        return tables.stream().mapToLong(TableContents::rows).sum();
    }

    /** What is not in another one as it is here, each in a few words. */
    List<String> missingIn(Contents other) {
        var missing = new ArrayList<String>();
        tables.stream()
                .filter(table -> !other.tables.contains(table))
                .forEach(table -> missing.add("the rows of " + table.table()));
        held.stream().filter(each -> !other.held.contains(each)).forEach(missing::add);
        return missing;
    }
}
