package weft.e2e.bench;

import java.io.IOException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.UUID;
import java.util.concurrent.Callable;
import weft.core.value.Value;
import weft.e2e.LocalWeft;
import weft.e2e.bench.EntryBench.Saver;
import weft.server.WeftServer;
import weft.store.record.EntryWriter;
import weft.store.record.EntryWriter.Entry;
import weft.store.record.Following;
import weft.store.record.SaveKey;
import weft.store.table.Tables;

/** Where the time of one client's save goes: the whole of it, and what is left when parts of it are left out. */
final class PartsBench {

    private PartsBench() {}

    /** Of the table that {@link EntryBench} made. */
    static void run(LocalWeft weft) throws Exception {
        Figures.heading("One client's save, in microseconds each");
        tell("a save over HTTP", () -> EntryBench.overHttp(weft));
        tell("the same save in the store, without HTTP, session and form", () -> inTheStore(weft));
        tell("the same by hand: four statements and a commit", () -> EntryBench.sameByHand(weft));
        tell("one bare insert and its commit", () -> EntryBench.bare(weft));
        tell("a question that changes nothing, over HTTP, by whoever is signed in", () -> asking(weft, "/api/session"));
        tell("the same by nobody, of no database", () -> asking(weft, "/actuator/health/liveness"));
    }

    private static void tell(String what, Callable<Saver> part) throws Exception {
        EntryBench.warmUp(1, part);
        Figures.line("%-70s %8.0f", what, 1e6 / EntryBench.rate(1, part));
    }

    private static Saver inTheStore(LocalWeft weft) {
        WeftServer.Running running = weft.running();
        var entries = running.part(EntryWriter.class);
        var table = running.part(Tables.class).find("bench_samples").orElseThrow();
        var day = LocalDate.of(2026, 8, 1);
        Map<String, Value> values = Map.of(
                "site", new Value.Text("QB-03"),
                "taken_on", new Value.Day(day),
                "taken_at", new Value.Hour(LocalTime.of(9, 30)),
                "ph", new Value.Decimal(new BigDecimal("7.4")),
                "remark", new Value.Text("clear"));
        return () -> entries.save(
                new Entry(
                        "bench_samples",
                        table,
                        values,
                        OptionalLong.empty(),
                        0,
                        Optional.of(new SaveKey(UUID.randomUUID().toString(), new byte[32])),
                        List.of(),
                        day,
                        "bench"),
                Following.NOTHING);
    }

    private static Saver asking(LocalWeft weft, String path) throws IOException {
        var server = new KeepAlive(weft.url());
        return new Saver() {
            @Override
            public void save() throws IOException {
                if (server.get(path) != 200) {
                    throw new IOException(path + " answered " + server.body());
                }
            }

            @Override
            public void close() throws IOException {
                server.close();
            }
        };
    }
}
