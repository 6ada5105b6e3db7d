package weft.core.form;

/**
 * A field of a form.
 *
 * @param id names it within its form, and stays when the label or the thread changes
 * @param label what people read above it
 * @param column the name of the column it is threaded to
 * @param widget what one types into
 * @param width how many of the grid's 12 tracks it takes, 1 to 12
 * @param height how many lines it is high, 1 to 12
 * @param help a line under it, or empty
 * @param unit what its numbers are counted in, shown inside it, or empty
 * @param required whether the form wants a value even where the column does not
 */
public record Field(
        String id,
        String label,
        String column,
        Widget widget,
        int width,
        int height,
        String help,
        String unit,
        boolean required) {

    /** The tracks of a form's grid. */
    public static final int TRACKS = 12;

    /** What one types into. */
    public enum Widget {
        LINE,
        AREA,
        NUMBER,
        YESNO,
        DATE,
        TIME,
        DATETIME,
        CHOICE
    }

    /** The same field with another width. */
    public Field wide(int tracks) {
        return new Field(id, label, column, widget, tracks, height, help, unit, required);
    }
}
