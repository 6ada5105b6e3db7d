package weft.server.event;

import jakarta.servlet.http.HttpServletRequest;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import weft.core.door.Person;
import weft.server.door.Needs;
import weft.server.door.Passage;
import weft.server.people.StillIn;
import weft.store.door.Ways.Way;
import weft.store.people.People;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/**
 * Server-sent events of a table: {@code saved}, {@code changed} and {@code deleted}, each with the record's id and row;
 * {@code draft} and {@code published} with the form of it whose working copy was changed or that was published; {@code table}
 * when this or any other table was made otherwise. By a door one hears of records that are in view, or were until then.
 */
@RestController
class EventsApi {

    private final Listeners listeners;
    private final Passage passage;
    private final People people;
    private final StillIn still;

    EventsApi(Listeners listeners, Passage passage, People people, StillIn still) {
        this.listeners = listeners;
        this.passage = passage;
        this.people = people;
        this.still = still;
    }

    @GetMapping(path = "/api/doors/{door}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    @Needs
    SseEmitter byDoor(Way door, HttpServletRequest request) {
        var in = still.of(request);
        return listeners.of(
                door.saving().table().id(),
                door.pass().door().isEverything(),
                () -> passage.again(door.pass())
                        .filter(_ -> in.getAsBoolean())
                        .map(way -> way.shown().seen()));
    }

    @GetMapping(path = "/api/tables/{table}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter ofTable(StoredTable table, Person person, HttpServletRequest request) {
        var in = still.of(request);
        return listeners.of(
                table.id(),
                true,
                () -> people.named(person.name())
                        .filter(kept -> !kept.stopped() && kept.person().builds() && in.getAsBoolean())
                        .map(_ -> SeenTable.all(table)));
    }
}
