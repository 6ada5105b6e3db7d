package weft.server.event;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.function.Supplier;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter.SseEventBuilder;
import weft.core.value.Wire;
import weft.store.event.Change;
import weft.store.event.Changes;
import weft.store.record.History;
import weft.store.table.SeenTable;

/** Those who listen to the changes of a table through this server. */
@Component
class Listeners implements Listening {

    private static final int WAITING = 1_000;
    private static final int BEAT_SECONDS = 15;

    private final List<Listener> all = new CopyOnWriteArrayList<>();

    private final History history;

    Listeners(Changes changes, History history) {
        this.history = history;
        changes.listen(this::hear);
    }

    /**
     * One who listens.
     *
     * @param builds whether they hear of working copies too
     * @param seen what of the table they may see now; empty when nothing any more
     */
    private record Listener(
            long table,
            boolean builds,
            Supplier<Optional<SeenTable>> seen,
            SseEmitter emitter,
            BlockingQueue<Event> waiting) {}

    /** What is sent; with the identity of the record that it is about, which must be in view, else with none. */
    private record Event(SseEventBuilder built, OptionalLong record) {}

    /**
     * A stream of the changes of that table, until its reader goes away or may not see it any more.
     *
     * @param builds whether they hear of working copies too
     * @param seen what of the table they may see at each moment
     */
    SseEmitter of(long table, boolean builds, Supplier<Optional<SeenTable>> seen) {
        var emitter = new SseEmitter(0L);
        var listener = new Listener(table, builds, seen, emitter, new ArrayBlockingQueue<>(WAITING));
        all.add(listener);
        emitter.onCompletion(() -> all.remove(listener));
        emitter.onError(_ -> all.remove(listener));
        Thread.ofVirtual().name("listener").start(() -> serve(listener));
        return emitter;
    }

    @Override
    public int count() {
        return all.size();
    }

    /** Sends in order, each listener at its own pace, with a beat that finds out when one is gone. */
    private void serve(Listener listener) {
        try {
            listener.emitter().send(SseEmitter.event().name("ready").data(""));
            while (all.contains(listener)) {
                var event = listener.waiting().poll(BEAT_SECONDS, TimeUnit.SECONDS);
                var seen = listener.seen().get();
                if (seen.isEmpty()) {
                    letGo(listener);
                } else if (event == null) {
                    listener.emitter().send(SseEmitter.event().comment("beat"));
                } else if (event.record().isEmpty()
                        || concerns(seen.get(), event.record().getAsLong())) {
                    listener.emitter().send(event.built());
                }
            }
        } catch (IOException | RuntimeException gone) {
            // The reader, or the database that says what they may see; they come back and look anew.
            letGo(listener);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Whether a record is in view, or was until its last change. */
    private boolean concerns(SeenTable seen, long record) {
        return seen.showsAll() || history.lastSeen(seen, record);
    }

    /** Passes a change on to those whom it concerns. One who falls too far behind is cut off, comes back and looks anew. */
    private void hear(Change change) {
        switch (change) {
            case Change.OfRecord(long table, var kind, long id, long row) ->
                send(
                        Wire.word(kind),
                        Map.of("id", id, "row", row),
                        OptionalLong.of(id),
                        listener -> listener.table() == table);
            // As when one begins to listen: all that is shown is looked at anew.
            case Change.OfRecords(long table) ->
                send("ready", Map.of(), OptionalLong.empty(), listener -> listener.table() == table);
            case Change.OfWorkingCopy(long table, var form) ->
                send(
                        "draft",
                        Map.of("form", form),
                        OptionalLong.empty(),
                        listener -> listener.builds() && listener.table() == table);
            case Change.OfPublished(long table, var form) ->
                send("published", Map.of("form", form), OptionalLong.empty(), listener -> listener.table() == table);
            // Rules of any form may look into any table.
            case Change.OfTable _ -> send("table", Map.of(), OptionalLong.empty(), _ -> true);
            case Change.Unheard() -> all.forEach(this::letGo);
        }
    }

    private void send(String name, Map<String, Object> data, OptionalLong record, Predicate<Listener> concerned) {
        all.stream().filter(concerned).forEach(listener -> {
            var built = SseEmitter.event().name(name).data(data, MediaType.APPLICATION_JSON);
            if (!listener.waiting().offer(new Event(built, record))) {
                letGo(listener);
            }
        });
    }

    /** Ending the stream of one who never reads takes until its connection is given up; nobody waits for that. */
    private void letGo(Listener listener) {
        all.remove(listener);
        Thread.ofVirtual().name("let go").start(() -> {
            try {
                listener.emitter().complete();
            } catch (IllegalStateException over) {
                // Its connection is given up already.
            }
        });
    }
}
