package weft.core.form;

import weft.core.value.ColumnType;

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
 * @param use what one may do in it
 * @param start what a new entry begins with in it
 * @param keys how the pages help with typing in it
 * @param look how it looks
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
        boolean required,
        Use use,
        Start start,
        Keys keys,
        Look look)
        implements Item {

    /** What one types into. */
    public enum Widget {
        LINE,
        AREA,
        NUMBER,
        YESNO,
        DATE,
        TIME,
        DATETIME,
        CHOICE,
        PICTURE,
        LINK;

        /** What one types values of that type into. */
        public static Widget of(ColumnType type) {
            return switch (type) {
                case TEXT -> LINE;
                case LONGTEXT -> AREA;
                case WHOLE, DECIMAL -> NUMBER;
                case YESNO -> YESNO;
                case DATE -> DATE;
                case TIME -> TIME;
                case DATETIME -> DATETIME;
                case CHOICE -> CHOICE;
                case PICTURE -> PICTURE;
                case LINK -> LINK;
            };
        }

        /** Whether values of that type can be typed into it: a line takes any, an area any text. */
        public boolean takes(ColumnType type) {
            return this == of(type)
                    || switch (type) {
                        case TEXT -> this == LINE || this == AREA;
                        case LONGTEXT, WHOLE, DECIMAL, YESNO, DATE, TIME, DATETIME, CHOICE, LINK -> this == LINE;
                        case PICTURE -> false;
                    };
        }
    }

    /** What one may do in a field. */
    public enum Use {
        OPEN,
        /** It can be gone into and copied from, not changed. */
        READ_ONLY,
        /** It is seen, greyed and skipped by Tab. */
        LOCKED,
        /** It is not seen. */
        HIDDEN
    }

    /**
     * What a new entry begins with in a field.
     *
     * @param value as it would be typed, or empty
     * @param carried whether the value of the last entry stays for the next
     * @param first whether typing begins here, rather than in the form's first open field
     * @param linked whether whoever opens the form may give the value, even where nobody may type
     */
    public record Start(String value, boolean carried, boolean first, boolean linked) {

        /** Empty, and nothing stays. */
        public static final Start EMPTY = new Start("", false, false);

        /** A start that nobody else gives. */
        public Start(String value, boolean carried, boolean first) {
            this(value, carried, first, false);
        }
    }

    /**
     * How the pages help with typing in a field. It refuses nothing: what a value must be is said by checks.
     *
     * @param shape a value as it looks, in which each letter stands for any letter and each digit for any digit; the signs
     *     between them are put in while one types; or empty
     * @param capitals whether letters become capitals while one types
     * @param goesOnAfter after how many characters typing goes on in the next field; 0 for never
     */
    public record Keys(String shape, boolean capitals, int goesOnAfter) {

        /** What is typed stays as it is. */
        public static final Keys PLAIN = new Keys("", false, 0);
    }

    /**
     * How a field looks.
     *
     * @param labelPlace where its label stands
     * @param placeholder shown in it while it is empty, or empty
     */
    public record Look(LabelPlace labelPlace, String placeholder, Size size, boolean bold, Tone tone) {

        /** As fields look when nothing else is said. */
        public static final Look PLAIN = new Look(LabelPlace.ABOVE, "", Size.NORMAL, false, Tone.PLAIN);
    }

    /** Where a label stands. */
    public enum LabelPlace {
        ABOVE,
        LEFT,
        /** Only screen readers are told it. */
        HIDDEN
    }

    /** The size of its text. */
    public enum Size {
        SMALL,
        NORMAL,
        LARGE
    }

    /** A colour of the theme; each is readable on its ground in both themes. */
    public enum Tone {
        PLAIN,
        INDIGO,
        MADDER,
        WELD,
        WOAD
    }

    /** An open field that looks plain, one line high. */
    public static Field plain(String id, String label, String column, Widget widget, int width) {
        return new Field(
                id, label, column, widget, width, 1, "", "", false, Use.OPEN, Start.EMPTY, Keys.PLAIN, Look.PLAIN);
    }

    /** Whether Tab stops in it. */
    public boolean focusable() {
        return use == Use.OPEN || use == Use.READ_ONLY;
    }

    /** Whether one may type in it. */
    public boolean open() {
        return use == Use.OPEN;
    }

    @Override
    public Field wide(int tracks) {
        return new Field(id, label, column, widget, tracks, height, help, unit, required, use, start, keys, look);
    }

    @Override
    public Field named(String other) {
        return new Field(other, label, column, widget, width, height, help, unit, required, use, start, keys, look);
    }

    /** The same with another look. */
    public Field looking(Look other) {
        return new Field(id, label, column, widget, width, height, help, unit, required, use, start, keys, other);
    }

    /** The same, so many lines high. */
    public Field high(int lines) {
        return new Field(id, label, column, widget, width, lines, help, unit, required, use, start, keys, look);
    }

    /** The same with another label. */
    public Field labelled(String other) {
        return new Field(id, other, column, widget, width, height, help, unit, required, use, start, keys, look);
    }

    /** The same, threaded to another column. */
    public Field threadedTo(String other) {
        return new Field(id, label, other, widget, width, height, help, unit, required, use, start, keys, look);
    }

    /** The same with something else to type into. */
    public Field typedInto(Widget other) {
        return new Field(id, label, column, other, width, height, help, unit, required, use, start, keys, look);
    }

    /** The same with another line of help. */
    public Field helped(String other) {
        return new Field(id, label, column, widget, width, height, other, unit, required, use, start, keys, look);
    }

    /** The same with its numbers counted in that. */
    public Field in(String other) {
        return new Field(id, label, column, widget, width, height, help, other, required, use, start, keys, look);
    }

    /** The same, wanted or not. */
    public Field required(boolean wanted) {
        return new Field(id, label, column, widget, width, height, help, unit, wanted, use, start, keys, look);
    }

    /** The same with another use. */
    public Field used(Use other) {
        return new Field(id, label, column, widget, width, height, help, unit, required, other, start, keys, look);
    }

    /** The same, begun otherwise. */
    public Field begun(Start other) {
        return new Field(id, label, column, widget, width, height, help, unit, required, use, other, keys, look);
    }

    /** The same, typed otherwise. */
    public Field typed(Keys other) {
        return new Field(id, label, column, widget, width, height, help, unit, required, use, start, other, look);
    }
}
