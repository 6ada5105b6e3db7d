package weft.store.table;

import static weft.store.schema.Tables.SECOND_KEYING;

import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record1;
import org.jooq.Select;
import org.jooq.impl.DSL;
import weft.core.twice.Standing;

/**
 * How far records have come with their keyings, which is kept beside them. Whoever keyed one first is not told that it waits
 * for its second keying: to them it is keyed once.
 */
public final class StandingSql {

    private StandingSql() {}

    /**
     * Whether a record stands so.
     *
     * @param by who asks; empty for who may be told of everything
     */
    public static Condition is(AnyTable table, Optional<String> by, Set<Standing> any) {
        return any.contains(Standing.ONCE)
                ? TableSql.ID.notIn(records(table, by, EnumSet.complementOf(EnumSet.copyOf(any))))
                : TableSql.ID.in(records(table, by, any));
    }

    /**
     * That a record is none that somebody must not see: one that waits to be keyed again by them, or that they keyed second, otherwise
     * than the first, for as long as a third person has not settled it.
     */
    public static Condition notBlindTo(AnyTable table, String by) {
        var keyedOtherwise = DSL.select(SECOND_KEYING.RECORD_ID)
                .from(SECOND_KEYING)
                .where(SECOND_KEYING.TABLE_ID.eq(DSL.inline(table.id())))
                .and(SECOND_KEYING.STANDING.eq(DSL.inline(Standing.DIFFERING)))
                .and(SECOND_KEYING.SECOND_BY.eq(DSL.inline(by)));
        return TableSql.ID
                .notIn(records(table, Optional.of(by), Set.of(Standing.WAITING)))
                .and(TableSql.ID.notIn(keyedOtherwise));
    }

    /** Those beside whose records there is a line that stands so; none of them is keyed once. */
    private static Select<Record1<Long>> records(AnyTable table, Optional<String> by, Set<Standing> any) {
        var names = any.stream().map(each -> DSL.inline(each)).toList();
        var told = by.map(name -> SECOND_KEYING
                        .STANDING
                        .ne(DSL.inline(Standing.WAITING))
                        .or(SECOND_KEYING.FIRST_BY.ne(DSL.inline(name))))
                .orElseGet(DSL::noCondition);
        return DSL.select(SECOND_KEYING.RECORD_ID)
                .from(SECOND_KEYING)
                .where(SECOND_KEYING.TABLE_ID.eq(DSL.inline(table.id())))
                .and(names.isEmpty() ? DSL.falseCondition() : SECOND_KEYING.STANDING.in(names))
                .and(told);
    }

    /** How those records stand, by identity, to whoever sees that table; what is left out is keyed once. */
    public static Map<Long, Standing> of(DSLContext sql, SeenTable table, List<Long> records) {
        var standing = new HashMap<Long, Standing>();
        var by = table.by();
        if (!records.isEmpty()) {
            sql.select(SECOND_KEYING.RECORD_ID, SECOND_KEYING.STANDING, SECOND_KEYING.FIRST_BY)
                    .from(SECOND_KEYING)
                    .where(SECOND_KEYING.TABLE_ID.eq(table.id()))
                    .and(SECOND_KEYING.RECORD_ID.in(records))
                    .forEach(row -> {
                        if (row.value2() != Standing.WAITING || !by.equals(Optional.of(row.value3()))) {
                            standing.put(row.value1(), row.value2());
                        }
                    });
        }
        return standing;
    }
}
