package weft.core.value;

/** What came in for one field, before it is read. */
public sealed interface Typed {

    /** Keys as a person typed them, to be read under the form's conventions. */
    record Keyed(String text) implements Typed {}

    /** A value that is typed already, such as a JSON number or boolean. */
    record Given(Value value) implements Typed {}

    /** A value that the column held once, to be there again as it was: it is not read, whoever wrote it. */
    record Kept(Value value) implements Typed {}

    /** Something that no field takes, such as a list; {@code what} names it in a sentence ("a list"). */
    record Foreign(String what) implements Typed {}

    /** Nothing typed. */
    Typed NOTHING = new Keyed("");
}
