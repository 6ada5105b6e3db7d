package weft.store.event;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jooq.Configuration;
import org.jooq.DSLContext;
import org.jooq.TransactionContext;
import org.jooq.TransactionListener;
import org.jooq.impl.DSL;
import weft.core.value.Wire;

/**
 * Tells of changes within the transaction that makes them: to every server by PostgreSQL's NOTIFY once it is kept, and to
 * this one before the call that made them returns. A message carries identities and row numbers, never values.
 */
public final class Telling {

    private static final String TOLD = "weft.told";

    private Telling() {}

    /** Tells a change, once the transaction is kept. */
    public static void tell(DSLContext within, Change change) {
        told(within.configuration()).add(change);
        within.fetch("select pg_notify('weft', {0})", DSL.val(wire(change)));
    }

    @SuppressWarnings("unchecked") // Nothing else is kept under this name.
    private static List<Change> told(Configuration transaction) {
        return (List<Change>) transaction.data().computeIfAbsent(TOLD, _ -> new ArrayList<Change>());
    }

    /** Passes on what was told in a transaction when it is kept. */
    static TransactionListener passingTo(Consumer<Change> hearer) {
        return new TransactionListener() {
            @Override
            public void commitEnd(TransactionContext context) {
                if (context.cause() == null) {
                    told(context.configuration()).forEach(hearer);
                }
            }
        };
    }

    private static String wire(Change change) {
        return switch (change) {
            case Change.OfRecord(long table, var kind, long id, long row) ->
                table + " " + Wire.word(kind) + " " + id + " " + row;
            case Change.OfRecords(long table) -> table + " many";
            case Change.OfWorkingCopy(long table, var form) -> table + " form-changed " + form;
            case Change.OfPublished(long table, var form) -> table + " form-published " + form;
            case Change.OfTable(long table) -> table + " table";
            case Change.Unheard() -> throw new IllegalArgumentException("nobody tells this");
        };
    }

    /** The change that a message tells of. */
    static Change read(String message) {
        var part = message.split(" ", 3);
        long table = Long.parseLong(part[0]);
        return switch (part[1]) {
            case "form-changed" -> new Change.OfWorkingCopy(table, part[2]);
            case "form-published" -> new Change.OfPublished(table, part[2]);
            case "table" -> new Change.OfTable(table);
            case "many" -> new Change.OfRecords(table);
            default -> {
                var record = part[2].split(" ");
                yield new Change.OfRecord(
                        table,
                        Wire.constant(Change.Kind.class, part[1]),
                        Long.parseLong(record[0]),
                        Long.parseLong(record[1]));
            }
        };
    }
}
