package weft.core.find;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Kind;
import weft.core.value.NormalText;
import weft.core.value.Respelling;

/** What is asked of columns, as it is written when dates or numbers are written another way, so that it asks the same. */
public final class RespelledWhere {

    private final Table table;
    private final Conventions from;
    private final Conventions to;
    private final LocalDateTime now;

    /** What is asked of that table at that moment, and was written in one way, is to be written in the other. */
    public RespelledWhere(Table table, Conventions from, Conventions to, LocalDateTime now) {
        this.table = table;
        this.from = from;
        this.to = to;
        this.now = now;
    }

    /** All of them, each {@code column:criterion}. What cannot be read stays as it is. */
    public List<String> of(List<String> written) {
        return written.stream()
                .map(Where::of)
                .map(where -> table.column(where.column())
                        .filter(_ -> !where.typed().isBlank())
                        .map(column -> new Where(where.column(), of(column, where.typed())))
                        .orElse(where)
                        .toString())
                .toList();
    }

    private String of(Column column, String typed) {
        var operands = new ArrayList<String>();
        var meant = new CriterionReader(from, now, operands::add).read(column, typed);
        if (!(meant instanceof Criterion.Read) || meant.equals(new CriterionReader(to, now).read(column, typed))) {
            return typed;
        }
        var spelled = new StringBuilder(Tokens.of(NormalText.of(typed)).text());
        int at = 0;
        for (var operand : operands) {
            at = find(spelled, operand, at);
            if (at < 0) {
                return typed;
            }
            var other = spelled(column, Starred.of(operand).bare());
            spelled.replace(at, at + operand.length(), other);
            at += other.length();
        }
        return meant.equals(new CriterionReader(to, now).read(column, spelled.toString())) ? spelled.toString() : typed;
    }

    /** Where that stands next, and not within a word. */
    private static int find(StringBuilder text, String operand, int from) {
        int at = text.indexOf(operand, from);
        while (at > 0 && Character.isLetterOrDigit(text.charAt(at - 1))) {
            at = text.indexOf(operand, at + 1);
        }
        return at;
    }

    private String spelled(Column column, String operand) {
        if (column.type().isDated()
                && new Periods(now.toLocalDate()).read(operand).isPresent()) {
            return operand;
        }
        var respelling = new Respelling(from, to, Optional.of(now));
        var day = column.type().isDated() ? respelling.of(Kind.of(ColumnType.DATE), operand) : operand;
        // A whole number's ends may have decimals.
        var kind = column.type() == ColumnType.WHOLE ? ColumnType.DECIMAL : column.type();
        return day.equals(operand) ? respelling.of(Kind.of(kind), operand) : day;
    }
}
