package weft.store.twice;

import static weft.store.schema.Tables.SECOND_KEYING;

import java.util.Optional;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import weft.core.twice.Standing;

/**
 * What is kept of a paper beside its record.
 *
 * @param tries at once: what was keyed where it differed
 * @param second what was keyed second, by column; nothing before
 * @param outcome by column, which keying holds, as far as that is known
 */
record Line(
        long record,
        Standing standing,
        String firstBy,
        Optional<String> takenBy,
        Optional<String> secondBy,
        Optional<String> settledBy,
        JSONB tries,
        JSONB second,
        JSONB outcome) {

    static Line of(Record row) {
        return new Line(
                row.get(SECOND_KEYING.RECORD_ID),
                row.get(SECOND_KEYING.STANDING),
                row.get(SECOND_KEYING.FIRST_BY),
                Optional.ofNullable(row.get(SECOND_KEYING.TAKEN_BY)),
                Optional.ofNullable(row.get(SECOND_KEYING.SECOND_BY)),
                Optional.ofNullable(row.get(SECOND_KEYING.SETTLED_BY)),
                row.get(SECOND_KEYING.TRIES),
                filled(row.get(SECOND_KEYING.SECOND)),
                filled(row.get(SECOND_KEYING.OUTCOME)));
    }

    private static JSONB filled(@Nullable JSONB json) {
        return json == null ? JSONB.valueOf("{}") : json;
    }
}
