package weft.core.twice;

import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import weft.core.find.Criterion;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.core.value.Wire;

/** How far a record has come with its keyings. Until it is settled, what it holds is what was keyed first. */
public enum Standing {
    /** Keyed once, and not to be keyed again. */
    ONCE,
    /** Waiting for its second keying. */
    WAITING,
    /** Keyed twice, not alike, and waiting for somebody to settle it. */
    DIFFERING,
    /** Keyed twice: alike, or what differed is settled. */
    SETTLED;

    /** What it is found by and called in formulas, beside the columns of a table: no column has a name like it. */
    public static final Column COLUMN = Column.plain("_keyed", "Keyed", ColumnType.CHOICE)
            .of(Arrays.stream(values()).map(Wire::word).toList());

    /** Those that match what is asked of {@link #COLUMN}. */
    public static Set<Standing> matching(Criterion asked) {
        return switch (asked) {
            case Criterion.Is(Value.Text(var text)) ->
                Wire.find(Standing.class, text).<Set<Standing>>map(EnumSet::of).orElse(none());
            case Criterion.Not(var inner) -> EnumSet.complementOf(EnumSet.copyOf(matching(inner)));
            case Criterion.Any(var criteria) -> joined(criteria);
            case Criterion.All(var criteria) -> {
                var all = EnumSet.allOf(Standing.class);
                criteria.forEach(each -> all.retainAll(matching(each)));
                yield all;
            }
            case Criterion.Is _, Criterion.Empty _, Criterion.Within _, Criterion.Like _ -> none();
        };
    }

    private static EnumSet<Standing> joined(List<Criterion> criteria) {
        var any = none();
        criteria.forEach(each -> any.addAll(matching(each)));
        return any;
    }

    private static EnumSet<Standing> none() {
        return EnumSet.noneOf(Standing.class);
    }
}
