package weft.store.picture;

import static weft.store.schema.Tables.COLUMN_DEF;
import static weft.store.schema.Tables.FORM;
import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.PICTURE;
import static weft.store.schema.Tables.TABLE_DEF;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.value.ColumnType;
import weft.store.table.SeenTable;

/** Pictures in PostgreSQL. One that was kept never changes. */
public final class Pictures {

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Pictures(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * A picture.
     *
     * @param type its media type
     * @param width in pixels
     * @param height in pixels
     */
    public record Picture(String type, int width, int height, byte[] bytes) {}

    /** Keeps a picture, upright, with a small one for lists. */
    public UUID keep(Picture picture, byte[] small, String by) {
        var id = UUID.randomUUID();
        sql.insertInto(PICTURE)
                .set(PICTURE.ID, id)
                .set(PICTURE.TYPE, picture.type())
                .set(PICTURE.WIDTH, picture.width())
                .set(PICTURE.HEIGHT, picture.height())
                .set(PICTURE.BYTES, picture.bytes())
                .set(PICTURE.SMALL, small)
                .set(PICTURE.BY, by)
                .execute();
        return id;
    }

    /** The picture of that identity, or the small one of it; empty when there is none. */
    public Optional<Picture> find(UUID id, boolean small) {
        var bytes = small ? PICTURE.SMALL : PICTURE.BYTES;
        return sql.select(PICTURE.TYPE, PICTURE.WIDTH, PICTURE.HEIGHT, bytes)
                .from(PICTURE)
                .where(PICTURE.ID.eq(id))
                .fetchOptional(row -> new Picture(row.value1(), row.value2(), row.value3(), row.value4()));
    }

    /** Whether somebody of that name has brought that picture. */
    public boolean broughtBy(UUID id, String by) {
        return sql.fetchExists(PICTURE, PICTURE.ID.eq(id).and(PICTURE.BY.eq(by)));
    }

    /** Whether a record that is to be seen of that table has the picture in a column that is. */
    public boolean seen(UUID id, SeenTable table) {
        var held = table.definition().columns().stream()
                .filter(column -> column.type() == ColumnType.PICTURE)
                .map(column -> DSL.field(DSL.name(column.name()), UUID.class).eq(id))
                .toList();
        return !held.isEmpty()
                && sql.fetchExists(DSL.selectOne()
                        .from(DSL.table(table.sqlName()))
                        .where(DSL.or(held))
                        .and(table.inView()));
    }

    /**
     * Takes away pictures older than that which were never kept with a record: neither a record nor its history names them,
     * nor does a practice entry of a form.
     *
     * @return how many
     */
    public int forget(Duration age) {
        var id = PICTURE.ID.cast(String.class);
        var named = new ArrayList<Condition>();
        named.add(DSL.exists(DSL.selectOne()
                .from(FORM)
                .where(FORM.DOCUMENT.cast(String.class).contains(id))));
        sql.select(TABLE_DEF.ID, TABLE_DEF.NAME, COLUMN_DEF.NAME)
                .from(COLUMN_DEF)
                .join(TABLE_DEF)
                .on(TABLE_DEF.ID.eq(COLUMN_DEF.TABLE_ID))
                .where(COLUMN_DEF.TYPE.eq(ColumnType.PICTURE))
                .forEach(row -> {
                    var held = DSL.field(DSL.name(row.value3()), UUID.class);
                    named.add(DSL.exists(DSL.selectOne()
                            .from(DSL.table(DSL.name("records", row.value2())))
                            .where(held.eq(PICTURE.ID))));
                    var kept = DSL.field("{0} ->> {1}", String.class, HISTORY.AFTER, DSL.inline(row.value3()));
                    named.add(DSL.exists(DSL.selectOne()
                            .from(HISTORY)
                            .where(HISTORY.TABLE_ID.eq(row.value1()))
                            .and(kept.eq(id))));
                });
        return sql.deleteFrom(PICTURE)
                .where(PICTURE.AT.lt(OffsetDateTime.now(clock).minus(age)))
                .andNot(DSL.or(named))
                .execute();
    }
}
