package weft.server.table;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import weft.core.table.Link;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.table.TableProposal.LinkProposal;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/**
 * A column as a request wants it; only its title or its name must be there.
 *
 * @param type text when none is said
 * @param min as it would be typed, or as JSON has it
 * @param max likewise
 * @param dayOrder of a change that makes dates of text: the order of their digits
 * @param decimalSign of a change that makes numbers of text: what stands before their decimals; the other one groups thousands
 * @param to of a link: the table that it leads to
 * @param shown of a link: the columns by which its records are called; what is usual when none is said
 * @param removed of a link: what becomes of it when its record is removed; refused where it is not said
 */
public record ColumnAsked(
        @Nullable String name,
        @Nullable String title,
        @Nullable ColumnType type,
        @Nullable Boolean required,
        @Nullable Boolean unique,
        @Nullable Integer scale,
        @Nullable Object min,
        @Nullable Object max,
        @Nullable List<String> choices,
        @Nullable DayOrder dayOrder,
        @Nullable DecimalSign decimalSign,
        @Nullable String to,
        @Nullable List<String> shown,
        Link.@Nullable Removed removed) {

    /** The proposal of the column, {@code length} characters usually at most. */
    public ColumnProposal proposal(OptionalInt length) {
        return ColumnProposal.plain(said(name), said(title), type == null ? ColumnType.TEXT : type)
                .required(Boolean.TRUE.equals(required))
                .unique(Boolean.TRUE.equals(unique))
                .scaled(scale == null ? OptionalInt.empty() : OptionalInt.of(scale))
                .within(
                        Optional.ofNullable(min).map(Object::toString),
                        Optional.ofNullable(max).map(Object::toString))
                .of(choices == null ? List.of() : choices)
                .usually(length)
                .leading(link());
    }

    private Optional<LinkProposal> link() {
        return to == null && shown == null && removed == null
                ? Optional.empty()
                : Optional.of(new LinkProposal(
                        said(to), shown == null ? List.of() : shown, removed == null ? Link.Removed.REFUSE : removed));
    }

    /** How stored text is written, where it is said. */
    Optional<Conventions> written() {
        if (dayOrder == null && decimalSign == null) {
            return Optional.empty();
        }
        return Optional.of(new Conventions(
                dayOrder == null ? DayOrder.MONTH_FIRST : dayOrder,
                decimalSign == null ? DecimalSign.POINT : decimalSign));
    }

    private static String said(@Nullable String text) {
        return text == null ? "" : text;
    }
}
