package weft.store.form;

import static weft.store.schema.Tables.FORM;
import static weft.store.schema.Tables.FORM_VERSION;
import static weft.store.schema.Tables.TABLE_DEF;

import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.JSON;
import org.jooq.impl.DSL;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.value.Conventions;
import weft.store.event.Changes;
import weft.store.table.StoredTable;

/** The forms there are: a working copy each, and its published versions. */
public final class Forms {

    private final DSLContext sql;

    public Forms(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * A form in the list of all.
     *
     * @param published the latest published version, or empty
     */
    public record Listed(String id, String title, String table, String tableTitle, Optional<Integer> published) {}

    /**
     * A form document.
     *
     * @param revision counts the changes of the working copy; for a published document, its version
     * @param json the document
     */
    public record Document(int revision, String json) {

        /** The form that it describes. */
        public Form form() {
            return FormJson.read(json);
        }
    }

    /** The working copy that a change was made on is not the latest. Nothing was written. */
    public static final class StaleForm extends RuntimeException {}

    /** Makes a form from the table and publishes it, so that entries can be keyed at once. */
    public Document make(StoredTable table, Conventions conventions) {
        return sql.transactionResult(inner -> make(inner.dsl(), table, conventions));
    }

    /** The same within a transaction of the caller's. */
    public Document make(DSLContext within, StoredTable table, Conventions conventions) {
        var taken = within.select(FORM.ID)
                .from(FORM)
                .where(FORM.ID.startsWith(table.definition().name()))
                .fetchSet(FORM.ID);
        var id = table.definition().name();
        for (int n = 2; taken.contains(id); n++) {
            id = table.definition().name() + "-" + n;
        }
        return keep(within, table, FormMaking.from(table.definition(), id, conventions));
    }

    /** Keeps a new form and publishes it. */
    public Document keep(StoredTable table, Form form) {
        return sql.transactionResult(inner -> keep(inner.dsl(), table, form));
    }

    private static Document keep(DSLContext within, StoredTable table, Form form) {
        var document = JSON.valueOf(FormSchema.passed(FormJson.write(form)));
        within.insertInto(FORM)
                .set(FORM.ID, form.id())
                .set(FORM.TABLE_ID, table.id())
                .set(FORM.TITLE, form.title())
                .set(FORM.REVISION, 1)
                .set(FORM.DOCUMENT, document)
                .set(FORM.PUBLISHED_VERSION, 1)
                .execute();
        addVersion(within, form.id(), 1, document);
        Changes.definitionsChanged(within);
        return new Document(1, document.data());
    }

    private static void addVersion(DSLContext within, String form, int version, JSON document) {
        within.insertInto(FORM_VERSION, FORM_VERSION.FORM_ID, FORM_VERSION.VERSION, FORM_VERSION.DOCUMENT)
                .values(form, version, document)
                .execute();
    }

    /** Every form, by title. */
    public List<Listed> list() {
        return sql.select(FORM.ID, FORM.TITLE, TABLE_DEF.NAME, TABLE_DEF.TITLE, FORM.PUBLISHED_VERSION)
                .from(FORM)
                .join(TABLE_DEF)
                .on(TABLE_DEF.ID.eq(FORM.TABLE_ID))
                .orderBy(FORM.TITLE, FORM.ID)
                .fetch(row -> new Listed(
                        row.value1(), row.value2(), row.value3(), row.value4(), Optional.ofNullable(row.value5())));
    }

    /** The working copy, or empty when there is no such form. */
    public Optional<Document> workingCopy(String id) {
        return sql.select(FORM.REVISION, FORM.DOCUMENT)
                .from(FORM)
                .where(FORM.ID.eq(id))
                .fetchOptional(row -> new Document(row.value1(), row.value2().data()));
    }

    /** The latest published document, or empty when there is none. */
    public Optional<Document> published(String id) {
        return sql.select(FORM_VERSION.VERSION, FORM_VERSION.DOCUMENT)
                .from(FORM)
                .join(FORM_VERSION)
                .on(FORM_VERSION.FORM_ID.eq(FORM.ID))
                .and(FORM_VERSION.VERSION.eq(FORM.PUBLISHED_VERSION))
                .where(FORM.ID.eq(id))
                .fetchOptional(row -> new Document(row.value1(), row.value2().data()));
    }

    /** The latest published forms on a table. */
    public List<Form> publishedOn(String table) {
        return sql.select(FORM_VERSION.DOCUMENT)
                .from(FORM)
                .join(TABLE_DEF)
                .on(TABLE_DEF.ID.eq(FORM.TABLE_ID))
                .join(FORM_VERSION)
                .on(FORM_VERSION.FORM_ID.eq(FORM.ID))
                .and(FORM_VERSION.VERSION.eq(FORM.PUBLISHED_VERSION))
                .where(TABLE_DEF.NAME.eq(table))
                .fetch(row -> FormJson.read(row.value1().data()));
    }

    /**
     * Puts a new working copy in place of the one of that revision.
     *
     * @throws StaleForm when that revision is not the latest, or the form is gone
     */
    public Document change(int revision, Form form) {
        var document = JSON.valueOf(FormSchema.passed(FormJson.write(form)));
        int changed = sql.update(FORM)
                .set(FORM.DOCUMENT, document)
                .set(FORM.TITLE, form.title())
                .set(FORM.REVISION, revision + 1)
                .set(FORM.CHANGED_AT, DSL.currentOffsetDateTime())
                .where(FORM.ID.eq(form.id()))
                .and(FORM.REVISION.eq(revision))
                .execute();
        if (changed == 0) {
            throw new StaleForm();
        }
        return new Document(revision + 1, document.data());
    }

    /** Publishes the working copy and says its version; empty when there is no such form. */
    public Optional<Integer> publish(String id) {
        return sql.transactionResult(inner -> {
            var form = inner.dsl()
                    .selectFrom(FORM)
                    .where(FORM.ID.eq(id))
                    .forUpdate()
                    .fetchOptional();
            return form.map(row -> {
                var latest = row.get(FORM.PUBLISHED_VERSION);
                int version = latest == null ? 1 : latest + 1;
                addVersion(inner.dsl(), id, version, row.get(FORM.DOCUMENT));
                inner.dsl()
                        .update(FORM)
                        .set(FORM.PUBLISHED_VERSION, version)
                        .where(FORM.ID.eq(id))
                        .execute();
                Changes.definitionsChanged(inner.dsl());
                return version;
            });
        });
    }
}
