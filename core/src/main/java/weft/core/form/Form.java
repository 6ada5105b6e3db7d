package weft.core.form;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.find.Sort;
import weft.core.value.Conventions;

/**
 * A form: the one source for what the Desk draws.
 *
 * @param id names it in addresses
 * @param title the name people read
 * @param table the name of the table it writes to
 * @param conventions how its people write dates and numbers
 * @param enter what the Enter key does
 * @param leaving what happens to a changed record when one moves on
 * @param order the order in which its records first come
 * @param density how close its lines stand
 * @param sections its fields in tab order, in groups
 */
public record Form(
        String id,
        String title,
        String table,
        Conventions conventions,
        Enter enter,
        Leaving leaving,
        Sort order,
        Density density,
        List<Section> sections) {

    public Form {
        sections = List.copyOf(sections);
    }

    /** What the Enter key does in a field. */
    public enum Enter {
        /** Saves the entry. */
        SAVES,
        /** Moves to the next field, and saves from the last. */
        MOVES_ON
    }

    /** What happens to a changed record when one moves on to another. */
    public enum Leaving {
        /** It is saved first. */
        SAVES,
        /** One is asked whether to save it. */
        ASKS
    }

    /** How close the lines of a form stand. */
    public enum Density {
        AIRY,
        REGULAR,
        TIGHT
    }

    /** A group of fields under a title; an empty title draws no heading. */
    public record Section(String title, List<Field> fields) {
        public Section {
            fields = List.copyOf(fields);
        }
    }

    /** Every field in tab order. */
    public Stream<Field> fields() {
        return sections.stream().flatMap(section -> section.fields().stream());
    }

    /** The field threaded to that column, or empty. */
    public Optional<Field> fieldOf(String column) {
        return fields().filter(field -> field.column().equals(column)).findFirst();
    }
}
