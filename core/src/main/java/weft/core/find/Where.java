package weft.core.find;

import java.util.function.UnaryOperator;

/**
 * What is asked of a column, as it is written and kept: {@code column:criterion}, such as {@code river:Quill Beck}.
 *
 * @param column the name of the column
 * @param typed the criterion as it is typed; blank for none
 */
public record Where(String column, String typed) {

    /** What is written so; without a colon, nothing is asked of that column. */
    public static Where of(String written) {
        int colon = written.indexOf(':');
        return colon < 0
                ? new Where(written, "")
                : new Where(written.substring(0, colon), written.substring(colon + 1));
    }

    /** The same of a column that is called so now. */
    public Where following(UnaryOperator<String> now) {
        return new Where(now.apply(column), typed);
    }

    /** As it is written. */
    @Override
    public String toString() {
        return column + ":" + typed;
    }
}
