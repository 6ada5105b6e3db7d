package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.LongStream;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.store.Door;
import weft.store.Given;
import weft.store.Outage;
import weft.store.TestDatabase;
import weft.store.record.EntryWriter.Entry;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** A save whose connection is lost at each point of it, and which is sent again under its key. */
@ExtendWith(TestDatabase.class)
class BrokenOffTest {

    private static final LocalDate DAY = LocalDate.of(2026, 8, 1);

    private static Entry entry(StoredTable table, String key) {
        return new Entry(
                "form",
                table,
                values("site", text(key)),
                OptionalLong.empty(),
                0,
                Optional.of(new SaveKey(key, new byte[32])),
                List.of(),
                DAY,
                "tester");
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void isWrittenOnceWhereverItsConnectionWasLost(boolean handsOn) throws Exception {
        var table = Given.table("after-last", "site text");
        var other = Given.table("after-last", "site text");
        var following =
                handsOn ? Given.alsoTo(other, written -> written.values().get("site")) : Following.NOTHING;
        var keys = new ArrayList<String>();
        try (var door = new Door();
                var database = TestDatabase.by(door)) {
            var entries = new EntryWriter(database, new Tables(database.sql())::find);
            entries.save(entry(table, "first"), following);
            keys.add("first");
            int broken = 0;
            for (int piece = 1, unbroken = 0; unbroken < 2; piece++) {
                for (var half : new boolean[] {false, true}) {
                    var key = piece + (half ? "½" : "");
                    keys.add(key);
                    door.breakOff(piece, half);
                    try {
                        entries.save(entry(table, key), following);
                    } catch (RuntimeException e) {
                        assertThat(Outage.of(e)).contains(Outage.GONE);
                    }
                    if (door.brokeOff()) {
                        broken++;
                    } else {
                        unbroken++;
                    }
                    again(entries, entry(table, key), following);
                }
            }
            // There and back, at least, each before it and in the middle of it.
            assertThat(broken).isGreaterThanOrEqualTo(handsOn ? 12 : 4);
        }
        var rows = LongStream.rangeClosed(1, keys.size()).boxed().toList();
        for (var each : handsOn ? List.of(table, other) : List.of(table)) {
            var stored = TestDatabase.get()
                    .sql()
                    .fetch("select site, _row from records." + each.definition().name() + " order by _row");
            assertThat(stored.getValues("site")).isEqualTo(keys);
            assertThat(stored.getValues("_row")).isEqualTo(rows);
        }
    }

    /** As a Desk does, until it is answered. */
    private static void again(EntryWriter entries, Entry entry, Following following) {
        for (int tries = 0; ; tries++) {
            try {
                entries.save(entry, following);
                return;
            } catch (RuntimeException e) {
                if (tries == 20 || Outage.of(e).isEmpty()) {
                    throw e;
                }
            }
        }
    }
}
