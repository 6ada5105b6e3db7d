package weft.server.event;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter.SseEventBuilder;
import weft.store.event.Change;
import weft.store.event.Changes;

/** Those who listen to the changes of a table through this server. */
@Component
class Listeners {

    private static final int WAITING = 1_000;
    private static final int BEAT_SECONDS = 15;

    private final List<Listener> all = new CopyOnWriteArrayList<>();

    Listeners(Changes changes) {
        changes.listen(this::hear);
    }

    private record Listener(long table, SseEmitter emitter, BlockingQueue<SseEventBuilder> waiting) {}

    /** A stream of the changes of that table's records, until its reader goes away. */
    SseEmitter of(long table) {
        var emitter = new SseEmitter(0L);
        var listener = new Listener(table, emitter, new ArrayBlockingQueue<>(WAITING));
        all.add(listener);
        emitter.onCompletion(() -> all.remove(listener));
        emitter.onError(_ -> all.remove(listener));
        Thread.ofVirtual().name("listener").start(() -> serve(listener));
        return emitter;
    }

    /** Sends in order, each listener at its own pace, with a beat that finds out when one is gone. */
    private void serve(Listener listener) {
        try {
            listener.emitter().send(SseEmitter.event().name("ready").data(""));
            while (all.contains(listener)) {
                var event = listener.waiting().poll(BEAT_SECONDS, TimeUnit.SECONDS);
                listener.emitter()
                        .send(event != null ? event : SseEmitter.event().comment("beat"));
            }
        } catch (IOException | IllegalStateException gone) {
            all.remove(listener);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Passes a change on to those whom it concerns. One who falls too far behind is cut off, comes back and looks anew. */
    private void hear(Change change) {
        switch (change) {
            case Change.OfRecord(long table, var kind, long id, long row) ->
                send(kind, Map.of("id", id, "row", row), listener -> listener.table() == table);
            case Change.OfWorkingCopy(long table, var form) ->
                send("draft", Map.of("form", form), listener -> listener.table() == table);
            case Change.OfPublished(long table, var form) ->
                send("published", Map.of("form", form), listener -> listener.table() == table);
            // Rules of any form may look into any table.
            case Change.OfTable _ -> send("table", Map.of(), _ -> true);
            case Change.Unheard() -> all.forEach(listener -> listener.emitter().complete());
        }
    }

    private void send(String name, Map<String, Object> data, Predicate<Listener> concerned) {
        all.stream().filter(concerned).forEach(listener -> {
            if (!listener.waiting().offer(SseEmitter.event().name(name).data(data, MediaType.APPLICATION_JSON))) {
                all.remove(listener);
                listener.emitter().complete();
            }
        });
    }
}
