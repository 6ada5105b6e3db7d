package weft.server.table;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.table.TableProposal.LinkProposal;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/**
 * A column as a request wants it; only its title or its name must be there.
 *
 * @param type one of the names of the column types; text when none is said
 * @param min as it would be typed, or as JSON has it
 * @param max likewise
 * @param dayOrder of a change that makes dates of text: the order of their digits, such as day-first
 * @param decimalSign of a change that makes numbers of text: what stands before their decimals, point or comma; the other
 *     one groups thousands
 * @param to of a link: the table that it leads to
 * @param shown of a link: the columns by which its records are called; what is usual when none is said
 * @param removed of a link: refuse, which is usual, or empty when its record is removed
 */
public record ColumnAsked(
        @Nullable String name,
        @Nullable String title,
        @Nullable String type,
        @Nullable Boolean required,
        @Nullable Boolean unique,
        @Nullable Integer scale,
        @Nullable Object min,
        @Nullable Object max,
        @Nullable List<String> choices,
        @Nullable String dayOrder,
        @Nullable String decimalSign,
        @Nullable String to,
        @Nullable List<String> shown,
        @Nullable String removed) {

    /** The proposal of the column, {@code length} characters usually at most. */
    public ColumnProposal proposal(OptionalInt length) {
        return new ColumnProposal(
                said(name),
                said(title),
                type == null ? "text" : type,
                Boolean.TRUE.equals(required),
                Boolean.TRUE.equals(unique),
                scale == null ? OptionalInt.empty() : OptionalInt.of(scale),
                Optional.ofNullable(min).map(Object::toString),
                Optional.ofNullable(max).map(Object::toString),
                choices == null ? List.of() : choices,
                length,
                link());
    }

    private Optional<LinkProposal> link() {
        return to == null && shown == null && removed == null
                ? Optional.empty()
                : Optional.of(new LinkProposal(said(to), shown == null ? List.of() : shown, said(removed)));
    }

    /** How stored text is written, where it is said. */
    Optional<Conventions> written() {
        if (dayOrder == null && decimalSign == null) {
            return Optional.empty();
        }
        return Optional.of(new Conventions(
                dayOrder == null ? DayOrder.MONTH_FIRST : DAY_ORDERS.of(dayOrder),
                decimalSign == null ? DecimalSign.POINT : DECIMAL_SIGNS.of(decimalSign)));
    }

    /** The words for how dates of digits are ordered. */
    public static final Words<DayOrder> DAY_ORDERS =
            new Words<>("dayOrder", DayOrder.class, "The order is day-first, month-first or year-first.");
    /** The words for what stands before decimals. */
    public static final Words<DecimalSign> DECIMAL_SIGNS =
            new Words<>("decimalSign", DecimalSign.class, "The decimal sign is point or comma.");

    private static String said(@Nullable String text) {
        return text == null ? "" : text;
    }
}
