package weft.core.form;

import java.util.ArrayList;
import java.util.List;

/** Breaks fields into lines of the 12-track grid and widens them so that each full line ends at the right edge. */
final class Rows {

    private Rows() {}

    /** The same fields in the same order, with widths that fill every line but a sparse last one. */
    static List<Field> filled(List<Field> fields) {
        var done = new ArrayList<Field>();
        var line = new ArrayList<Field>();
        int used = 0;
        for (var field : fields) {
            if (used + field.width() > Item.TRACKS) {
                done.addAll(widened(line, used));
                line.clear();
                used = 0;
            }
            line.add(field);
            used += field.width();
        }
        // A last line that is more than half full is filled too; a short one keeps its widths.
        done.addAll(used > Item.TRACKS / 2 ? widened(line, used) : line);
        return done;
    }

    private static List<Field> widened(List<Field> line, int used) {
        var widened = new ArrayList<>(line);
        for (int spare = Item.TRACKS - used; spare > 0; spare--) {
            int narrowest = 0;
            for (int i = 1; i < widened.size(); i++) {
                if (want(widened.get(i)) <= want(widened.get(narrowest))) {
                    narrowest = i;
                }
            }
            widened.set(
                    narrowest,
                    widened.get(narrowest).wide(widened.get(narrowest).width() + 1));
        }
        return widened;
    }

    /** Text can use more room than numbers and dates can. */
    private static int want(Field field) {
        boolean words = field.widget() == Field.Widget.LINE || field.widget() == Field.Widget.CHOICE;
        return field.width() * (words ? 1 : 2);
    }
}
