package weft.server.watch;

import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.binder.MeterBinder;
import java.time.Duration;
import java.util.function.ToDoubleFunction;
import org.springframework.stereotype.Component;
import weft.server.event.Listening;
import weft.store.Database;
import weft.store.find.Indexes;
import weft.store.message.Outbox;
import weft.store.people.Audit;

/** Figures that are asked when somebody looks at them; a database that can't be asked then leaves them out. */
@Component
class Measures implements MeterBinder {

    private static final Duration OF_LATE = Duration.ofMinutes(5);

    private final Database database;
    private final Outbox outbox;
    private final Audit audit;
    private final Indexes indexes;
    private final Listening listening;

    Measures(Database database, Outbox outbox, Audit audit, Indexes indexes, Listening listening) {
        this.database = database;
        this.outbox = outbox;
        this.audit = audit;
        this.indexes = indexes;
        this.listening = listening;
    }

    @Override
    public void bindTo(MeterRegistry registry) {
        gauge(
                registry,
                "weft.connections.used",
                "Connections of this server that something is done on",
                database,
                Database::used);
        gauge(
                registry,
                "weft.connections.wanted",
                "Requests of this server that wait for a connection",
                database,
                Database::wanted);
        gauge(
                registry,
                "weft.listeners",
                "Open pages that hear of changes through this server",
                listening,
                Listening::count);
        gauge(registry, "weft.messages.waiting", "Messages of entries that are not sent yet", outbox, Outbox::waiting);
        gauge(
                registry,
                "weft.messages.given.up",
                "Messages of entries that could not be sent",
                outbox,
                Outbox::givenUp);
        gauge(
                registry,
                "weft.signins.failed",
                "Failed sign-ins of the last five minutes",
                audit,
                of -> of.count(Audit.Deed.SIGN_IN_FAILED, OF_LATE));
        gauge(
                registry,
                "weft.indexes.missing",
                "Indexes that forms need and that are not built yet",
                indexes,
                Indexes::missing);
    }

    private static <T> void gauge(
            MeterRegistry registry, String name, String description, T of, ToDoubleFunction<T> value) {
        Gauge.builder(name, of, value).description(description).register(registry);
    }
}
