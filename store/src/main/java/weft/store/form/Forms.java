package weft.store.form;

import static weft.store.schema.Tables.DOOR;
import static weft.store.schema.Tables.FORM;
import static weft.store.schema.Tables.FORM_STEP;
import static weft.store.schema.Tables.FORM_VERSION;
import static weft.store.schema.Tables.TABLE_DEF;

import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSON;
import org.jooq.Record;
import org.jooq.impl.DSL;
import weft.core.find.RespelledWhere;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.form.RespelledForm;
import weft.core.form.TableUse;
import weft.core.value.Conventions;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** The forms there are: a working copy each, and its published versions. */
public final class Forms {

    /** So many states of a working copy are kept to go back to. */
    private static final int KEPT_STEPS = 300;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Forms(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * A form in the list of all.
     *
     * @param published the latest published version, or empty
     * @param archived whether it is out of use
     */
    public record Listed(
            String id, String title, String table, String tableTitle, Optional<Integer> published, boolean archived) {}

    /**
     * A form as it is kept, with its columns called as they are now.
     *
     * @param revision counts the changes of the working copy; for a published form, its version
     * @param archived whether the form is out of use and takes no entries; only said of what is published
     */
    public record Document(int revision, Form form, boolean archived) {

        Document(int revision, Form form) {
            this(revision, form, false);
        }

        /** The document itself. */
        public String json() {
            return FormJson.write(form);
        }
    }

    /** A published version of a form. */
    public record Version(int version, OffsetDateTime at, String by, Form form) {}

    /** Whether a working copy can go back to its last state, and forth to one it went back from. */
    public record Steps(boolean back, boolean forth) {}

    /** Which way through the kept states. */
    public enum Way {
        BACK,
        FORTH
    }

    /** The working copy that a change was made on is not the latest. Nothing was written. */
    public static final class StaleForm extends RuntimeException {}

    /** Makes a form from the table and publishes it, so that entries can be keyed at once. */
    public Document make(StoredTable table, Conventions conventions) {
        return sql.transactionResult(inner -> make(inner.dsl(), table, conventions));
    }

    /** The same within a transaction of the caller's. */
    public Document make(DSLContext within, StoredTable table, Conventions conventions) {
        var id = freeId(within, table.definition().name());
        return keep(within, table, FormMaking.from(table.definition(), id, conventions), true);
    }

    /** One after the other, so that no two take the same. */
    private static String freeId(DSLContext within, String base) {
        within.execute("select pg_advisory_xact_lock(hashtext('weft.form ids'))");
        var taken = within.select(FORM.ID)
                .from(FORM)
                .where(FORM.ID.startsWith(base))
                .union(DSL.select(DOOR.ID).from(DOOR).where(DOOR.ID.startsWith(base)))
                .fetchSet(FORM.ID);
        var id = base;
        for (int n = 2; taken.contains(id); n++) {
            id = base + "-" + n;
        }
        return id;
    }

    /** Keeps a form as a new one, not published yet, under an id that is free. */
    public Document bring(StoredTable table, Form form) {
        return sql.transactionResult(inner -> bring(inner.dsl(), table, form));
    }

    /** The same within a transaction of the caller's. */
    static Document bring(DSLContext within, StoredTable table, Form form) {
        var id = freeId(within, form.id());
        return keep(within, table, form.named(id, form.title()), false);
    }

    private static Document keep(DSLContext within, StoredTable table, Form form, boolean published) {
        var document = JSON.valueOf(FormDocument.checked(form).json());
        within.insertInto(FORM)
                .set(FORM.ID, form.id())
                .set(FORM.TABLE_ID, table.id())
                .set(FORM.TITLE, form.title())
                .set(FORM.REVISION, 1)
                .set(FORM.DOCUMENT, document)
                .set(FORM.PUBLISHED_VERSION, published ? 1 : null)
                .execute();
        if (published) {
            addVersion(within, form.id(), 1, document, "somebody");
        }
        Telling.tell(within, new Change.OfPublished(table.id(), form.id()));
        return new Document(1, form);
    }

    private static void addVersion(DSLContext within, String form, int version, JSON document, String by) {
        within.insertInto(FORM_VERSION)
                .set(FORM_VERSION.FORM_ID, form)
                .set(FORM_VERSION.VERSION, version)
                .set(FORM_VERSION.DOCUMENT, document)
                .set(FORM_VERSION.PUBLISHED_BY, by)
                .execute();
    }

    /** Every form, by title, the archived ones last. */
    public List<Listed> list() {
        return sql.select(FORM.ID, FORM.TITLE, TABLE_DEF.NAME, TABLE_DEF.TITLE, FORM.PUBLISHED_VERSION, FORM.ARCHIVED)
                .from(FORM)
                .join(TABLE_DEF)
                .on(TABLE_DEF.ID.eq(FORM.TABLE_ID))
                .orderBy(FORM.ARCHIVED, FORM.TITLE, FORM.ID)
                .fetch(row -> new Listed(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        row.value4(),
                        Optional.ofNullable(row.value5()),
                        row.value6()));
    }

    /** The working copy, or empty when there is no such form. */
    public Optional<Document> workingCopy(String id) {
        return sql.select(FORM.REVISION, FORM.DOCUMENT)
                .from(FORM)
                .where(FORM.ID.eq(id))
                .fetchOptional(row -> new Document(row.value1(), current(row.value2())));
    }

    /** The latest published document, or empty when there is none. */
    public Optional<Document> published(String id) {
        return sql.select(FORM_VERSION.VERSION, FORM_VERSION.DOCUMENT, FORM.ARCHIVED)
                .from(FORM)
                .join(FORM_VERSION)
                .on(FORM_VERSION.FORM_ID.eq(FORM.ID))
                .and(FORM_VERSION.VERSION.eq(FORM.PUBLISHED_VERSION))
                .where(FORM.ID.eq(id))
                .fetchOptional(row -> new Document(row.value1(), standing(row.value2()), row.value3()));
    }

    /** A certain published document, or empty when there is none. */
    public Optional<Document> published(String id, int version) {
        return sql.select(FORM_VERSION.DOCUMENT)
                .from(FORM_VERSION)
                .where(FORM_VERSION.FORM_ID.eq(id))
                .and(FORM_VERSION.VERSION.eq(version))
                .fetchOptional(row -> new Document(version, standing(row.value1())));
    }

    /** The published versions of a form, the latest first. */
    public List<Version> versions(String id) {
        return sql.select(
                        FORM_VERSION.VERSION,
                        FORM_VERSION.PUBLISHED_AT,
                        FORM_VERSION.PUBLISHED_BY,
                        FORM_VERSION.DOCUMENT)
                .from(FORM_VERSION)
                .where(FORM_VERSION.FORM_ID.eq(id))
                .orderBy(FORM_VERSION.VERSION.desc())
                .limit(100)
                .fetch()
                .map(row -> new Version(row.value1(), row.value2(), row.value3(), current(row.value4())));
    }

    /** The form of a document, with its columns called as they are now. */
    private Form current(JSON document) {
        return current(document, new Tables(sql)::find);
    }

    private static Form current(JSON document, Function<String, Optional<StoredTable>> tables) {
        var form = FormJson.read(document.data());
        return tables.apply(form.table())
                .map(table -> form.following(table.definition()))
                .orElse(form);
    }

    /** The same without what shows a column that the table has no more: a form goes on where a column was removed. */
    private Form standing(JSON document) {
        var form = current(document);
        return new Tables(sql)
                .find(form.table())
                .map(table ->
                        form.showing(column -> table.definition().column(column).isPresent()))
                .orElse(form);
    }

    /** The titles of the published forms on a table that are in use and show that column, or have a rule that speaks of it. */
    public List<String> using(String table, String column) {
        return publishedOn(table).stream()
                .filter(form ->
                        form.fieldOf(column).isPresent() || form.rules().marks().containsKey(column))
                .map(Form::title)
                .sorted()
                .toList();
    }

    /** By published form in use, the labels of the fields that are hidden because their columns are gone; forms without such are left out. */
    public Map<String, List<String>> lost() {
        var tables = new HashMap<String, Optional<StoredTable>>();
        return published(DSL.noCondition()).stream()
                .flatMap(form -> tables.computeIfAbsent(form.table(), new Tables(sql)::find).stream()
                        .map(table -> Map.entry(
                                form.id(),
                                form.fields()
                                        .filter(field -> table.definition()
                                                .column(field.column())
                                                .isEmpty())
                                        .map(Field::label)
                                        .toList())))
                .filter(each -> !each.getValue().isEmpty())
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    /** The latest published forms on a table that are in use. */
    public List<Form> publishedOn(String table) {
        return published(TABLE_DEF.NAME.eq(table));
    }

    /** What published forms in use on other tables do with that one. */
    public List<TableUse> usesOf(String table) {
        return published(TABLE_DEF.NAME.ne(table)).stream()
                .flatMap(form -> TableUse.of(form, table).stream())
                .sorted(Comparator.comparing(TableUse::form))
                .toList();
    }

    /** The latest published forms that are in use, on all tables. */
    public PublishedForms published() {
        return new PublishedForms(published(DSL.noCondition()));
    }

    private List<Form> published(Condition which) {
        var tables = new HashMap<String, Optional<StoredTable>>();
        return sql.select(FORM_VERSION.DOCUMENT)
                .from(FORM)
                .join(TABLE_DEF)
                .on(TABLE_DEF.ID.eq(FORM.TABLE_ID))
                .join(FORM_VERSION)
                .on(FORM_VERSION.FORM_ID.eq(FORM.ID))
                .and(FORM_VERSION.VERSION.eq(FORM.PUBLISHED_VERSION))
                .where(which)
                .and(DSL.not(FORM.ARCHIVED))
                .fetch()
                .map(row -> current(row.value1(), name -> tables.computeIfAbsent(name, new Tables(sql)::find)));
    }

    /** The name of the table that a form is on, or empty when there is no such form. */
    public Optional<String> tableOf(String id) {
        return sql.select(TABLE_DEF.NAME)
                .from(FORM)
                .join(TABLE_DEF)
                .on(TABLE_DEF.ID.eq(FORM.TABLE_ID))
                .where(FORM.ID.eq(id))
                .fetchOptional(TABLE_DEF.NAME);
    }

    /** The revision of the working copy, or empty when there is no such form. */
    public Optional<Integer> revision(String id) {
        return sql.select(FORM.REVISION).from(FORM).where(FORM.ID.eq(id)).fetchOptional(FORM.REVISION);
    }

    /**
     * Puts a new working copy in place of the one of that revision.
     *
     * @throws StaleForm when that revision is not the latest, or the form is gone
     */
    public Document change(int revision, FormDocument form, String by) {
        return sql.transactionResult(inner -> change(inner.dsl(), revision, form, by));
    }

    /**
     * The same where its builder changed it. What it spells and was not changed follows when dates and numbers are typed another
     * way from now on; an earlier version that is put back is spelled as it was.
     *
     * @throws StaleForm when that revision is not the latest, or the form is gone
     */
    public Document edit(int revision, FormDocument edited, String by) {
        return sql.transactionResult(inner -> {
            var within = inner.dsl();
            var id = edited.form().id();
            var before = new Forms(within).current(latest(within, id, revision).get(FORM.DOCUMENT));
            return change(within, revision, respelled(within, before, edited), by);
        });
    }

    /** The same as a change, within a transaction of the caller's. */
    static Document change(DSLContext within, int revision, FormDocument changed, String by) {
        var form = changed.form();
        var document = JSON.valueOf(changed.json());
        var now = latest(within, form.id(), revision);
        int step = now.get(FORM.STEP);
        within.deleteFrom(FORM_STEP)
                .where(FORM_STEP.FORM_ID.eq(form.id()))
                .and(FORM_STEP.STEP.gt(step).or(FORM_STEP.STEP.lt(step - KEPT_STEPS)))
                .execute();
        addStep(within, form.id(), step, now.get(FORM.DOCUMENT), by);
        addStep(within, form.id(), step + 1, document, by);
        put(within, now, form, document, step + 1);
        return new Document(revision + 1, form);
    }

    private static FormDocument respelled(DSLContext within, Form before, FormDocument edited) {
        var after = edited.form();
        return before.conventions().equals(after.conventions())
                ? edited
                : FormDocument.checked(RespelledForm.of(
                        before,
                        after,
                        name -> new Tables(within).find(name).map(StoredTable::definition),
                        LocalDateTime.now()));
    }

    /** Doors and finds ask what they asked, where the people of the form write otherwise from that version on. */
    private static void respell(DSLContext within, Form before, Form after) {
        if (!before.conventions().equals(after.conventions())) {
            new Tables(within).find(after.table()).ifPresent(table -> {
                var where = new RespelledWhere(
                        table.definition(), before.conventions(), after.conventions(), LocalDateTime.now());
                new RespelledDoors(where::of).of(within, after.id());
            });
        }
    }

    private static Record latest(DSLContext within, String id, int revision) {
        return within.selectFrom(FORM)
                .where(FORM.ID.eq(id))
                .and(FORM.REVISION.eq(revision))
                .forUpdate()
                .fetchOptional()
                .orElseThrow(StaleForm::new);
    }

    private static void addStep(DSLContext within, String id, int step, JSON document, String by) {
        within.insertInto(FORM_STEP)
                .set(FORM_STEP.FORM_ID, id)
                .set(FORM_STEP.STEP, step)
                .set(FORM_STEP.DOCUMENT, document)
                .set(FORM_STEP.BY, by)
                .onDuplicateKeyIgnore()
                .execute();
    }

    private static void put(DSLContext within, Record now, Form form, JSON document, int step) {
        within.update(FORM)
                .set(FORM.DOCUMENT, document)
                .set(FORM.TITLE, form.title())
                .set(FORM.REVISION, now.get(FORM.REVISION) + 1)
                .set(FORM.STEP, step)
                .set(FORM.CHANGED_AT, DSL.currentOffsetDateTime())
                .where(FORM.ID.eq(form.id()))
                .execute();
        Telling.tell(within, new Change.OfWorkingCopy(now.get(FORM.TABLE_ID), form.id()));
    }

    /**
     * Takes the working copy back to its last state, or forth again. Without one, it stays as it is.
     *
     * @throws StaleForm when that revision is not the latest, or the form is gone
     */
    public Document step(String id, int revision, Way way) {
        return sql.transactionResult(inner -> {
            var now = latest(inner.dsl(), id, revision);
            int step = now.get(FORM.STEP) + (way == Way.BACK ? -1 : 1);
            var there = inner.dsl()
                    .select(FORM_STEP.DOCUMENT)
                    .from(FORM_STEP)
                    .where(FORM_STEP.FORM_ID.eq(id))
                    .and(FORM_STEP.STEP.eq(step))
                    .fetchOptional(FORM_STEP.DOCUMENT);
            if (there.isEmpty()) {
                return new Document(revision, current(now.get(FORM.DOCUMENT)));
            }
            var form = current(there.get());
            put(inner.dsl(), now, form, there.get(), step);
            return new Document(revision + 1, form);
        });
    }

    /** Which ways the working copy can go. */
    public Steps steps(String id) {
        var steps = sql.select(FORM_STEP.STEP.minus(FORM.STEP))
                .from(FORM)
                .join(FORM_STEP)
                .on(FORM_STEP.FORM_ID.eq(FORM.ID))
                .where(FORM.ID.eq(id))
                .fetchSet(0, Integer.class);
        return new Steps(steps.contains(-1), steps.contains(1));
    }

    /**
     * Publishes the working copy of that revision and says its version.
     *
     * @throws StaleForm when that revision is not the latest, or the form is gone
     */
    public int publish(String id, int revision, String by) {
        return sql.transactionResult(inner -> publish(inner.dsl(), latest(inner.dsl(), id, revision), by));
    }

    /** Publishes the working copy as it is and says its version; empty when there is no such form. */
    public Optional<Integer> publish(String id, String by) {
        return sql.transactionResult(inner -> inner.dsl()
                .selectFrom(FORM)
                .where(FORM.ID.eq(id))
                .forUpdate()
                .fetchOptional()
                .map(form -> publish(inner.dsl(), form, by)));
    }

    /** What is published already needs no other version: the same request may well come twice. */
    private static boolean publishedAs(DSLContext within, Record form, int version) {
        return within.fetchExists(
                FORM_VERSION,
                FORM_VERSION
                        .FORM_ID
                        .eq(form.get(FORM.ID))
                        .and(FORM_VERSION.VERSION.eq(version))
                        .and(FORM_VERSION
                                .DOCUMENT
                                .cast(String.class)
                                .eq(form.get(FORM.DOCUMENT).data())));
    }

    private static int publish(DSLContext within, Record form, String by) {
        var latest = form.get(FORM.PUBLISHED_VERSION);
        if (latest != null && publishedAs(within, form, latest)) {
            return latest;
        }
        var forms = new Forms(within);
        var id = form.get(FORM.ID);
        forms.published(id).ifPresent(was -> respell(within, was.form(), forms.current(form.get(FORM.DOCUMENT))));
        int version = latest == null ? 1 : latest + 1;
        addVersion(within, form.get(FORM.ID), version, form.get(FORM.DOCUMENT), by);
        within.update(FORM)
                .set(FORM.PUBLISHED_VERSION, version)
                .where(FORM.ID.eq(form.get(FORM.ID)))
                .execute();
        Telling.tell(within, new Change.OfPublished(form.get(FORM.TABLE_ID), form.get(FORM.ID)));
        return version;
    }

    /** Puts a form out of use, or into use again; says whether there is one. */
    public boolean archive(String id, boolean archived) {
        return sql.transactionResult(inner -> {
            var table = inner.dsl()
                    .update(FORM)
                    .set(FORM.ARCHIVED, archived)
                    .where(FORM.ID.eq(id))
                    .returning(FORM.TABLE_ID)
                    .fetchOptional(FORM.TABLE_ID);
            table.ifPresent(of -> Telling.tell(inner.dsl(), new Change.OfPublished(of, id)));
            return table.isPresent();
        });
    }
}
