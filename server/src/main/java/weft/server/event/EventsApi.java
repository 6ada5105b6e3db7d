package weft.server.event;

import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import weft.server.form.PreparedForms;

/**
 * Server-sent events: {@code saved}, {@code changed} and {@code deleted}, each with the record's id and row, and
 * {@code definitions} when tables or forms changed.
 */
@RestController
class EventsApi {

    private final PreparedForms forms;
    private final Listeners listeners;

    EventsApi(PreparedForms forms, Listeners listeners) {
        this.forms = forms;
        this.listeners = listeners;
    }

    @GetMapping(path = "/api/forms/{form}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter ofForm(@PathVariable String form) {
        return listeners.of(forms.published(form).table().id());
    }

    @GetMapping(path = "/api/tables/{table}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter ofTable(@PathVariable String table) {
        return listeners.of(forms.table(table).id());
    }
}
