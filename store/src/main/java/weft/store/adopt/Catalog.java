package weft.store.adopt;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import weft.store.adopt.Adoptions.ListedTable;
import weft.store.adopt.Existing.Check;
import weft.store.adopt.Existing.Key;
import weft.store.adopt.Existing.Leading;
import weft.store.adopt.Existing.Part;
import weft.store.adopt.Existing.Trigger;

/** Reads PostgreSQL's catalog. */
final class Catalog {

    private static final String OTHERS =
            "n.nspname not in ('weft', 'records', 'information_schema') and n.nspname not like 'pg\\_%'";
    private static final String NAMES = "(select array_agg(a.attname::text order by k.place) from unnest(%s) with"
            + " ordinality as k (num, place) join pg_attribute a on a.attrelid = %s and a.attnum = k.num)";

    private final DSLContext sql;

    Catalog(DSLContext sql) {
        this.sql = sql;
    }

    /** The tables and views of other schemas, by name. */
    List<ListedTable> list() {
        return sql.fetch("select n.nspname::text, c.relname::text, c.relkind in ('v', 'm'), c.reltuples::bigint,"
                        + " (select t.name from weft.table_def t where t.adopted is not null and weft.relation(t.id) = c.oid limit 1)"
                        + " from pg_class c join pg_namespace n on n.oid = c.relnamespace"
                        + " where c.relkind in ('r', 'p', 'f', 'v', 'm') and not c.relispartition and " + OTHERS
                        + " and c.relpersistence <> 't' and has_schema_privilege(n.oid, 'usage')"
                        + " and has_table_privilege(c.oid, 'select')"
                        + " and not exists (select from pg_depend d where d.objid = c.oid and d.deptype = 'e')"
                        + " order by 1, 2")
                .map(row -> new ListedTable(
                        row.get(0, String.class),
                        row.get(1, String.class),
                        row.get(2, Boolean.class),
                        row.get(3, Long.class),
                        Optional.ofNullable(row.get(4, String.class))));
    }

    /** What there is under that name; empty for nothing. */
    Optional<Existing> find(String schema, String name) {
        return sql.fetchOptional(
                        "select c.oid::bigint, c.relkind::text, c.relrowsecurity, c.reloftype <> 0, pg_has_role(c.relowner, 'usage'),"
                                + " exists (select from pg_inherits where inhrelid = c.oid or inhparent = c.oid),"
                                + " exists (select from pg_rewrite w where w.ev_class = c.oid and w.rulename <> '_RETURN'),"
                                + " has_schema_privilege(n.oid, 'usage') and has_table_privilege(c.oid, 'select')"
                                + " from pg_class c join pg_namespace n on n.oid = c.relnamespace"
                                + " where n.nspname = {0} and c.relname = {1} and c.relkind in ('r', 'p', 'f', 'v', 'm') and "
                                + OTHERS,
                        schema,
                        name)
                .map(row -> {
                    long oid = row.get(0, Long.class);
                    boolean view = List.of("v", "m").contains(row.get(1, String.class));
                    return new Existing(
                            schema,
                            name,
                            view,
                            columns(oid),
                            keys(oid),
                            checks(oid),
                            leading(oid),
                            triggers(oid),
                            hindrance(row, view));
                });
    }

    private static Optional<String> hindrance(Record row, boolean view) {
        if (!row.get(7, Boolean.class)) {
            return Optional.of("Weft's user of the database may not read it.");
        }
        if (view) {
            return Optional.empty();
        }
        return switch (row.get(1, String.class)) {
            case "p" -> Optional.of("It is a table in parts, whose rows can't be numbered through all of them.");
            case "f" -> Optional.of("It stands in another database.");
            default -> {
                if (!row.get(4, Boolean.class)) {
                    yield Optional.of("Weft's user of the database is not its owner, so it can add no columns."
                            + " Make the user a member of the owner's role.");
                }
                if (row.get(5, Boolean.class)) {
                    yield Optional.of("It inherits from another table, or is inherited from.");
                }
                if (row.get(2, Boolean.class)) {
                    yield Optional.of("It has rules about who may see which rows, which Weft would pass by.");
                }
                if (row.get(3, Boolean.class) || row.get(6, Boolean.class)) {
                    yield Optional.of("It is made of a type, or has rules that rewrite what is asked of it.");
                }
                yield Optional.empty();
            }
        };
    }

    private List<Part> columns(long oid) {
        return sql.fetch(
                        "select a.attname::text, format_type(a.atttypid, a.atttypmod), b.typname::text,"
                                + " case when t.typtype = 'd' then t.typtypmod else a.atttypmod end, t.typtype = 'd',"
                                + " (select array_agg(e.enumlabel::text order by e.enumsortorder) from pg_enum e where e.enumtypid = b.oid),"
                                + " a.attnotnull or t.typnotnull,"
                                + " case when a.attidentity <> '' then format('nextval(%L::regclass)',"
                                + "   pg_get_serial_sequence(format('%I.%I', n.nspname, c.relname), a.attname))"
                                + " else coalesce(pg_get_expr(d.adbin, d.adrelid), t.typdefault) end,"
                                + " a.attidentity = 'a', a.attgenerated <> '', b.typnamespace = 'pg_catalog'::regnamespace or b.typtype = 'e',"
                                + " b.typcategory::text, b.typtype::text"
                                + " from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_namespace n on n.oid = c.relnamespace"
                                + " join pg_type t on t.oid = a.atttypid"
                                // A domain may be made of a domain.
                                + " join pg_type b on b.oid = (with recursive under (oid, base) as ("
                                + "   select t.oid, t.typbasetype union all"
                                + "   select u.oid, u.typbasetype from pg_type u join under on u.oid = under.base)"
                                + "   select oid from under where base = 0)"
                                + " left join pg_attrdef d on d.adrelid = a.attrelid and d.adnum = a.attnum"
                                + " where a.attrelid = {0}::oid and a.attnum > 0 and not a.attisdropped order by a.attnum",
                        oid)
                .map(row -> new Part(
                        row.get(0, String.class),
                        row.get(1, String.class),
                        // A type of somebody's own may be called as one that is known.
                        row.get(10, Boolean.class) ? row.get(2, String.class) : "?",
                        row.get(3, Integer.class),
                        row.get(4, Boolean.class),
                        texts(row.get(5)),
                        row.get(6, Boolean.class),
                        row.get(9, Boolean.class) ? Optional.empty() : Optional.ofNullable(row.get(7, String.class)),
                        row.get(8, Boolean.class),
                        row.get(9, Boolean.class)));
    }

    /** Those that hold of every row, of columns alone, and at once. */
    private List<Key> keys(long oid) {
        return sql.fetch(
                        "select conname::text, contype = 'p', " + NAMES.formatted("conkey", "conrelid")
                                + " from pg_constraint where conrelid = {0}::oid and contype in ('p', 'u')"
                                + " order by contype = 'p' desc, conname",
                        oid)
                .map(row -> new Key(row.get(0, String.class), row.get(1, Boolean.class), texts(row.get(2))));
    }

    private List<Check> checks(long oid) {
        return sql.fetch(
                        "select conname::text, " + NAMES.formatted("conkey", "conrelid")
                                + ", pg_get_constraintdef(oid) from pg_constraint"
                                + " where conrelid = {0}::oid and contype = 'c' order by conname",
                        oid)
                .map(row -> new Check(row.get(0, String.class), texts(row.get(1)), row.get(2, String.class)));
    }

    private List<Leading> leading(long oid) {
        return sql.fetch(
                        "select f.conname::text, " + NAMES.formatted("f.conkey", "f.conrelid")
                                + ", n.nspname::text, c.relname::text, " + NAMES.formatted("f.confkey", "f.confrelid")
                                + ", f.condeferrable, f.convalidated, f.confdeltype::text"
                                + " from pg_constraint f join pg_class c on c.oid = f.confrelid join pg_namespace n on n.oid = c.relnamespace"
                                + " where f.conrelid = {0}::oid and f.contype = 'f' order by cardinality(f.conkey), f.conname",
                        oid)
                .map(row -> new Leading(
                        row.get(0, String.class),
                        texts(row.get(1)),
                        row.get(2, String.class),
                        row.get(3, String.class),
                        texts(row.get(4)),
                        row.get(5, Boolean.class),
                        row.get(6, Boolean.class),
                        row.get(7, String.class)));
    }

    private List<Trigger> triggers(long oid) {
        return sql.fetch(
                        "select tgname::text, tgenabled::text from pg_trigger"
                                + " where tgrelid = {0}::oid and not tgisinternal and tgenabled <> 'D' order by tgname",
                        oid)
                .map(row -> new Trigger(row.get(0, String.class), row.get(1, String.class)));
    }

    private static List<String> texts(Object array) {
        return array instanceof Object[] texts
                ? Arrays.stream(texts).map(String::valueOf).toList()
                : List.of();
    }
}
