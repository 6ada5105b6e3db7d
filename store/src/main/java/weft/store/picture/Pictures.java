package weft.store.picture;

import static weft.store.schema.Tables.PICTURE;

import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;

/** Pictures in PostgreSQL. One that was kept never changes. */
public final class Pictures {

    private final DSLContext sql;

    public Pictures(DSLContext sql) {
        this.sql = sql;
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
}
