package weft.core.form;

import java.util.List;
import java.util.Optional;
import weft.core.sentence.Shapes;
import weft.core.value.ColumnType;

/**
 * A word for a kind of values.
 *
 * @param scale how many decimals it says
 * @param shape how its texts are written, as sentences say it
 */
record KindWord(String name, ColumnType type, Optional<Integer> scale, Optional<String> shape) {

    KindWord(String name, ColumnType type) {
        this(name, type, Optional.empty(), Optional.empty());
    }

    /** All of them; of two that a text begins with, the longer one first. */
    static final List<KindWord> ALL = List.of(
            new KindWord("long text", ColumnType.LONGTEXT),
            new KindWord("longtext", ColumnType.LONGTEXT),
            new KindWord("text", ColumnType.TEXT),
            new KindWord("email", ColumnType.TEXT, Optional.empty(), Optional.of(Shapes.E_MAIL)),
            new KindWord("e-mail", ColumnType.TEXT, Optional.empty(), Optional.of(Shapes.E_MAIL)),
            new KindWord("phone", ColumnType.TEXT, Optional.empty(), Optional.of(Shapes.PHONE)),
            new KindWord("whole number", ColumnType.WHOLE),
            new KindWord("whole", ColumnType.WHOLE),
            new KindWord("integer", ColumnType.WHOLE),
            new KindWord("number", ColumnType.DECIMAL),
            new KindWord("decimal", ColumnType.DECIMAL),
            new KindWord("money", ColumnType.DECIMAL, Optional.of(2), Optional.empty()),
            new KindWord("yes or no", ColumnType.YESNO),
            new KindWord("yes/no", ColumnType.YESNO),
            new KindWord("y/n", ColumnType.YESNO),
            new KindWord("date and time", ColumnType.DATETIME),
            new KindWord("date", ColumnType.DATE),
            new KindWord("time", ColumnType.TIME),
            new KindWord("picture", ColumnType.PICTURE),
            new KindWord("choice", ColumnType.CHOICE));
}
