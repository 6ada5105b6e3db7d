package weft.core.form;

/** One thing on a form: a field, or what stands beside fields. It has a place in the outline and on the 12-track grid. */
public sealed interface Item permits Field, Words, Picture, Calculated, Button, FormLines {

    /** The tracks of a form's grid. */
    int TRACKS = 12;

    /** Names it within its form, and stays whatever else changes. */
    String id();

    /** How many of the grid's tracks it takes, 1 to 12. */
    int width();

    /** How many lines it is high, 1 to 12. */
    int height();

    /** The same with another width. */
    Item wide(int tracks);

    /** The same under another id. */
    Item named(String other);
}
