package weft.server.event;

import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import weft.store.form.ReadyForm;
import weft.store.table.StoredTable;

/**
 * Server-sent events of a table: {@code saved}, {@code changed} and {@code deleted}, each with the record's id and row;
 * {@code draft} and {@code published} with the form of it whose working copy was changed or that was published; {@code table}
 * when this or any other table was made otherwise.
 */
@RestController
class EventsApi {

    private final Listeners listeners;

    EventsApi(Listeners listeners) {
        this.listeners = listeners;
    }

    @GetMapping(path = "/api/forms/{form}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter ofForm(ReadyForm form) {
        return listeners.of(form.table().id());
    }

    @GetMapping(path = "/api/tables/{table}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter ofTable(StoredTable table) {
        return listeners.of(table.id());
    }
}
