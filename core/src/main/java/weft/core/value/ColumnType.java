package weft.core.value;

/** What kind of values a column holds. The wire name is the constant in lower case. */
public enum ColumnType {
    /** One line of text. */
    TEXT,
    /** Text with line breaks. */
    LONGTEXT,
    /** A whole number of 64 bits. */
    WHOLE,
    /** An exact decimal number. */
    DECIMAL,
    /** Yes or no. */
    YESNO,
    /** A day of the calendar. */
    DATE,
    /** A time of day, to the second. */
    TIME,
    /** A day and a time, without a zone. */
    DATETIME,
    /** One of a fixed list of texts. */
    CHOICE,
    /** A picture, kept apart from the records and named by its identity. */
    PICTURE,
    /** A record of another table, shown by its own words. */
    LINK;

    /** Whether its values are text as it was typed or chosen. */
    public boolean isText() {
        return switch (this) {
            case TEXT, LONGTEXT, CHOICE -> true;
            case WHOLE, DECIMAL, YESNO, DATE, TIME, DATETIME, PICTURE, LINK -> false;
        };
    }

    /** Whether its values are numbers. */
    public boolean isNumber() {
        return switch (this) {
            case WHOLE, DECIMAL -> true;
            case TEXT, LONGTEXT, YESNO, DATE, TIME, DATETIME, CHOICE, PICTURE, LINK -> false;
        };
    }

    /** Whether its values lie on days, so that a month or a year of them can be asked for. */
    public boolean isDated() {
        return switch (this) {
            case DATE, DATETIME -> true;
            case TEXT, LONGTEXT, WHOLE, DECIMAL, YESNO, TIME, CHOICE, PICTURE, LINK -> false;
        };
    }

    /** Whether values of this type are ordered, so that a least and a greatest value can be set. */
    public boolean hasRange() {
        return switch (this) {
            case WHOLE, DECIMAL, DATE, TIME, DATETIME -> true;
            case TEXT, LONGTEXT, YESNO, CHOICE, PICTURE, LINK -> false;
        };
    }

    /** The type in a sentence: "a whole number", "a date". */
    public String inWords() {
        return switch (this) {
            case TEXT -> "text";
            case LONGTEXT -> "long text";
            case WHOLE -> "a whole number";
            case DECIMAL -> "a number";
            case YESNO -> "yes or no";
            case DATE -> "a date";
            case TIME -> "a time";
            case DATETIME -> "a date and time";
            case CHOICE -> "one of a list";
            case PICTURE -> "a picture";
            case LINK -> "a link";
        };
    }
}
