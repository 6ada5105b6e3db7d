package weft.core.entry.step;

import java.util.Map;
import weft.core.value.Value;

/** Something that an entry writes beside its own row, in the same transaction. */
public sealed interface Write {

    /** Adds a row to a table. */
    record Add(String table, Map<String, Value> values) implements Write {}

    /** Changes a record, as long as nobody else did since it was looked at. */
    record Change(String table, long id, int version, long row, Map<String, Value> values) implements Write {}

    /** Sends a message. */
    record Message(String to, String subject, String text) implements Write {}
}
