package weft.core.entry.step;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weft.core.value.Value;

/** Something that an entry writes beside its own row, in the same transaction. */
public sealed interface Write {

    /** The table that it writes to, by name; empty for a message. */
    default Optional<String> into() {
        return switch (this) {
            case Add(var table, var _) -> Optional.of(table);
            case AddAll(var table, var _) -> Optional.of(table);
            case Remove(var table, long _, int _, long _) -> Optional.of(table);
            case Change(var table, long _, int _, long _, var _) -> Optional.of(table);
            case Message _ -> Optional.empty();
        };
    }

    /** Adds a row to a table. */
    record Add(String table, Map<String, Value> values) implements Write {}

    /** Adds rows to a table, which follow each other. */
    record AddAll(String table, List<Map<String, Value>> rows) implements Write {

        public AddAll {
            rows = List.copyOf(rows);
        }
    }

    /** Removes a record, as long as nobody changed it since it was looked at. */
    record Remove(String table, long id, int version, long row) implements Write {}

    /** Changes a record, as long as nobody else did since it was looked at. */
    record Change(String table, long id, int version, long row, Map<String, Value> values) implements Write {}

    /** Sends a message. */
    record Message(String to, String subject, String text) implements Write {}
}
