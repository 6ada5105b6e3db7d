package weft.store.adopt;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.store.adopt.Existing.Trigger;
import weft.store.adopt.Fit.Into;
import weft.store.adopt.Plan.Leads;
import weft.store.table.LinkSql;

/** The statements by which a table is adopted and let go. */
final class AdoptSql {

    private static final int MOST_MEMBERS = 45;

    private final Plan plan;
    private final String relation;

    AdoptSql(Plan plan) {
        this.plan = plan;
        this.relation = Sql.quoted(plan.existing().schema(), plan.existing().name());
    }

    /**
     * A column that is added.
     *
     * @param name as SQL has it
     * @param type its type, and what holds of it
     * @param before what rows have in it that were there before; empty where they are filled afterwards
     */
    private record Added(String name, String type, String before) {
        Added(String name, String type) {
            this(name, type, "");
        }
    }

    /** An index that is added, on those columns or expressions. */
    private record Index(String name, List<String> on) {}

    private List<Added> columns(String by) {
        return Stream.concat(
                        Stream.of(
                                new Added("_id", "bigint"),
                                new Added("_row", "bigint"),
                                new Added("_version", "integer not null", "1"),
                                new Added("_entered_at", "timestamp with time zone not null", "now()"),
                                new Added("_entered_by", "character varying(100)", Sql.text(by)),
                                new Added("_changed_at", "timestamp with time zone"),
                                new Added("_changed_by", "character varying(100)")),
                        plan.links().stream().map(leads -> new Added(Sql.quoted(leads.held()), "bigint")))
                .toList();
    }

    /** The indexes by which the records that lead to one are found, and what must be unique. */
    private List<Index> indexes(long table, Map<String, Long> columnIds) {
        var indexes = new ArrayList<Index>();
        plan.links()
                .forEach(leads -> indexes.add(new Index(
                        "links_" + table + "_" + columnIds.get(leads.column().name()),
                        List.of(Sql.quoted(leads.held())))));
        // By these is looked for what must be unique, where the table's own index is on the column as it is stored.
        var keys = plan.existing().keys();
        for (int i = 0; i < keys.size(); i++) {
            var seen = keys.get(i).columns().stream().map(this::seenAs).toList();
            if (!seen.equals(keys.get(i).columns().stream().map(Sql::quoted).toList())) {
                indexes.add(new Index(
                        "alike_" + table + "_" + i,
                        seen.stream().map(each -> "(" + each + ")").toList()));
            }
        }
        return indexes;
    }

    /** The triggers that are added, beside the one of links. */
    private static final List<String> TRIGGERS =
            List.of("zz_weft_saved", "zz_weft_changed", "zz_weft_deleted", "zz_weft_emptied", "zz_weft_written");

    /** The columns, indexes and triggers that are added, each in a line. */
    List<String> added() {
        var added = new ArrayList<String>();
        columns("").forEach(column -> added.add("column " + column.name() + " " + column.type()));
        added.add("unique (_id), unique (_row)");
        indexes(0, links()).forEach(index -> added.add("index on (" + String.join(", ", index.on()) + ")"));
        TRIGGERS.forEach(trigger -> added.add("trigger " + trigger));
        if (!plan.links().isEmpty()) {
            added.add("trigger zz_weft_links");
        }
        return added.stream().map(each -> each.replace("\"", "")).toList();
    }

    /** All that is done, where the table gets an identity that is not known yet. */
    List<String> all(String by) {
        var statements = new ArrayList<String>();
        if (!plan.existing().view()) {
            statements.addAll(fill(by));
            statements.addAll(hold(0, 0, links()));
        }
        statements.addAll(stand(0));
        return statements;
    }

    private Map<String, Long> links() {
        return plan.links().stream()
                .collect(Collectors.toMap(leads -> leads.column().name(), _ -> 0L));
    }

    /** Adds the columns and fills them: each row gets its number in the order of the primary key, else as they lie. */
    List<String> fill(String by) {
        var columns = columns(by);
        var statements = new ArrayList<String>();
        statements.add(alter(columns.stream()
                .map(column -> "add column " + column.name() + " " + column.type()
                        + (column.before().isEmpty() ? "" : " default " + column.before()))
                .collect(Collectors.joining(", "))));
        // Its own triggers are not to take this for a change of theirs.
        plan.existing().triggers().forEach(trigger -> statements.add(alter("disable trigger " + name(trigger))));
        statements.add(numbering());
        plan.existing()
                .triggers()
                .forEach(trigger -> statements.add(alter("enable "
                        + switch (trigger.fires()) {
                            case "A" -> "always ";
                            case "R" -> "replica ";
                            default -> "";
                        }
                        + "trigger " + name(trigger))));
        statements.add(alter(Stream.concat(
                        columns.stream()
                                .filter(column -> !column.before().isEmpty())
                                .map(column -> "alter column " + column.name() + " drop default"),
                        Stream.of("alter column _id set not null", "alter column _row set not null"))
                .collect(Collectors.joining(", "))));
        return statements;
    }

    private static String name(Trigger trigger) {
        return Sql.quoted(trigger.name());
    }

    private String alter(String how) {
        return "alter table " + relation + " " + how;
    }

    private String numbering() {
        var order = plan.existing().keys().stream()
                .filter(Existing.Key::primary)
                .findFirst()
                .map(key -> key.columns().stream().map(Sql::quoted).collect(Collectors.joining(", ")))
                .orElse("r.ctid");
        var links = plan.links();
        var sets = IntStream.range(0, links.size())
                .mapToObj(i -> ", " + Sql.quoted(links.get(i).held()) + " = f.l" + i)
                .collect(Collectors.joining());
        var found = IntStream.range(0, links.size())
                .mapToObj(i -> ", k" + i + "." + (links.get(i).itself() ? "n" : "_id") + " as l" + i)
                .collect(Collectors.joining());
        var joins = IntStream.range(0, links.size())
                .mapToObj(i -> " left join "
                        + (links.get(i).itself()
                                ? "numbered"
                                : links.get(i).to().relation()) + " k" + i + " on " + same(links.get(i), "k" + i, "r"))
                .collect(Collectors.joining());
        var needed = links.stream()
                .flatMap(leads -> Stream.concat(
                        leads.key().columns().stream(), leads.itself() ? leads.key().keys().stream() : Stream.of()))
                .distinct()
                .map(column -> ", r." + Sql.quoted(column))
                .collect(Collectors.joining());
        return "with numbered as (select r.ctid as at, row_number() over (order by " + order + ") as n" + needed
                + " from " + relation + " r), found as (select r.at, r.n" + found + " from numbered r" + joins + ")"
                + " update " + relation + " t set _id = f.n, _row = f.n" + sets + " from found f where t.ctid = f.at";
    }

    /** Whether a row is the one that the foreign key leads to. */
    private static String same(Leads leads, String key, String row) {
        return IntStream.range(0, leads.key().keys().size())
                .mapToObj(i -> key + "." + Sql.quoted(leads.key().keys().get(i)) + " = " + row + "."
                        + Sql.quoted(leads.key().columns().get(i)))
                .collect(Collectors.joining(" and "));
    }

    /** What holds of the new columns, and the indexes by which the records that lead to one are found. */
    List<String> hold(long table, long rows, Map<String, Long> columnIds) {
        var statements = new ArrayList<String>();
        statements.add(alter(
                "add constraint weft_id_%1$d unique (_id), add constraint weft_row_%1$d unique (_row),".formatted(table)
                        + " alter column _id add generated by default as identity (start with " + (rows + 1) + ")"));
        indexes(table, columnIds)
                .forEach(index -> statements.add("create index " + index.name() + " on " + relation + " ("
                        + String.join(", ", index.on()) + ")"));
        statements.add("analyze " + relation);
        return statements;
    }

    /** The view that stands for it, and the functions and triggers that write. */
    List<String> stand(long table) {
        var statements = new ArrayList<String>();
        var view = Sql.quoted("records", plan.table().name());
        if (plan.existing().view()) {
            var key = "r." + Sql.quoted(plan.key().orElseThrow()) + "::bigint";
            statements.add("create view " + view + " as select " + key + " as _id, " + key + " as _row, 1 as _version,"
                    + " null::timestamptz as _entered_at, ''::varchar as _entered_by, null::timestamptz as _changed_at,"
                    + " null::varchar as _changed_by, " + seen() + " from " + relation + " r");
            statements.add("create trigger zz_weft_write instead of insert or update or delete on " + view
                    + " for each row execute function weft.refuse()");
            return statements;
        }
        statements.add("create view " + view + " as select "
                + Plan.OWN.stream().map(column -> "r." + column).collect(Collectors.joining(", ")) + ", " + seen()
                + " from " + relation + " r");
        statements.add("create function weft.seen_" + table + "(r " + relation
                + ") returns jsonb language plpgsql stable as $weft$ begin return " + seenAsJson() + "; end $weft$");
        statements.add(writing(table, view));
        statements.add("create trigger zz_weft_write instead of insert or update or delete on " + view
                + " for each row execute function weft.write_" + table + "()");
        if (!plan.links().isEmpty()) {
            statements.add(linking(table));
            statements.add("create trigger zz_weft_links before insert or update on " + relation
                    + " for each row execute function weft.links_" + table + "()");
        }
        statements.add("select weft.watch_adopted(" + table + ", " + Sql.text(relation) + "::regclass)");
        return statements;
    }

    /** What the view makes of a column, if an index can be made on that; else the column. */
    private String seenAs(String base) {
        return plan.fits().stream()
                .filter(fit -> fit.base().equals(List.of(base)))
                .findFirst()
                .flatMap(Fit::indexed)
                .orElse(Sql.quoted(base));
    }

    /** In parts, since a function takes a hundred arguments at most. */
    private String seenAsJson() {
        var parts = new ArrayList<String>();
        for (int from = 0; from < plan.fits().size(); from += MOST_MEMBERS) {
            parts.add(plan.fits().stream()
                    .skip(from)
                    .limit(MOST_MEMBERS)
                    .map(fit -> Sql.text(fit.column().name()) + ", " + kept(fit))
                    .collect(Collectors.joining(", ", "jsonb_build_object(", ")")));
        }
        return String.join(" || ", parts);
    }

    /** A value as history keeps it: decimals as texts, so that they stay exact, and links with what their record is called. */
    private static String kept(Fit fit) {
        var column = fit.column();
        return column.link()
                .map(link -> "(select jsonb_build_object('id', k._id, 'row', k._row, 'shown', "
                        + DSL.using(SQLDialect.POSTGRES).renderInlined(LinkSql.words(link)) + ") from "
                        + Sql.quoted("records", link.to()) + " k where k._id = " + fit.seen("r.") + ")")
                .orElseGet(
                        () -> column.type() == ColumnType.DECIMAL ? "(" + fit.seen("r.") + ")::text" : fit.seen("r."));
    }

    private String seen() {
        return plan.fits().stream()
                .map(fit -> fit.seen("r.") + " as " + Sql.quoted(fit.column().name()))
                .collect(Collectors.joining(", "));
    }

    /** Writes a row of the view to the table, and gives back what the table made of it. */
    private String writing(long table, String view) {
        var inserted =
                plan.fits().stream().flatMap(fit -> fit.inserted().stream()).toList();
        var changed = plan.fits().stream()
                .filter(fit -> !fit.changed().isEmpty())
                .map(fit -> "case when new.%1$s is distinct from old.%1$s then %2$s end"
                        .formatted(
                                Sql.quoted(fit.column().name()),
                                Sql.text(fit.changed().stream()
                                        .map(into ->
                                                Sql.quoted(into.column()) + " = " + ofParameter(into, fit.column()))
                                        .collect(Collectors.joining(", ")))))
                .collect(Collectors.joining(", "));
        return """
                create function weft.write_%1$d() returns trigger language plpgsql set search_path = pg_catalog as $weft$
                declare
                  _weft_made bigint;
                begin
                  if tg_op = 'DELETE' then
                    delete from %2$s where _id = old._id returning _id into _weft_made;
                  elsif tg_op = 'INSERT' then
                    insert into %2$s (_id, _row, _version, _entered_at, _entered_by%3$s) overriding system value
                      values (coalesce(new._id, nextval(pg_get_serial_sequence(%6$s, '_id'))), new._row, new._version,
                        coalesce(new._entered_at, now()), new._entered_by%4$s)
                      returning _id into _weft_made;
                  else
                    execute %8$s || concat_ws(', ', '_version = ($1)._version, _changed_at = ($1)._changed_at,'
                        ' _changed_by = ($1)._changed_by', %5$s) || ' where _id = $2 returning _id' into _weft_made using new, old._id;
                  end if;
                  if _weft_made is null then
                    raise exception 'A trigger of the table %% let the record go unwritten.', %6$s using errcode = 'raise_exception';
                  end if;
                  if tg_op = 'DELETE' then return old; end if;
                  select v.* into new from %7$s v where v._id = _weft_made;
                  return new;
                end
                $weft$
                """.formatted(
                table,
                relation,
                inserted.stream().map(into -> ", " + Sql.quoted(into.column())).collect(Collectors.joining()),
                inserted.stream().map(into -> ", " + into.expression()).collect(Collectors.joining()),
                changed.isEmpty() ? "null" : changed,
                Sql.text(relation),
                view,
                Sql.text("update " + relation + " set "));
    }

    private static String ofParameter(Into into, Column column) {
        var name = "new." + Sql.quoted(column.name());
        return into.expression().replace(name, "($1)." + Sql.quoted(column.name()));
    }

    /** Keeps beside each foreign key the identity of the record that it leads to, whoever writes. */
    private String linking(long table) {
        var each = plan.links().stream()
                .map(leads -> {
                    var held = "new." + Sql.quoted(leads.held());
                    var keys = leads.key().columns();
                    var now = keys.stream().map(key -> "new." + Sql.quoted(key)).collect(Collectors.joining(", "));
                    var before =
                            keys.stream().map(key -> "old." + Sql.quoted(key)).collect(Collectors.joining(", "));
                    return """
                              if tg_op = 'INSERT' or row(%1$s) is distinct from row(%2$s) then
                                %3$s := %4$s;
                              else
                                %3$s := old.%5$s;
                              end if;
                            """.formatted(
                                    now,
                                    before,
                                    held,
                                    leads.itself()
                                            // A row may lead to itself before it is there.
                                            ? "case when " + same(leads, "new", "new") + " then new._id else "
                                                    + found(leads) + " end"
                                            : found(leads),
                                    Sql.quoted(leads.held()));
                })
                .collect(Collectors.joining());
        return "create function weft.links_" + table
                + "() returns trigger language plpgsql security definer set search_path = pg_catalog as $weft$\nbegin\n"
                + each + "  return new;\nend\n$weft$";
    }

    private static String found(Leads leads) {
        return "(select k._id from " + leads.to().relation() + " k where " + same(leads, "k", "new") + ")";
    }
}
