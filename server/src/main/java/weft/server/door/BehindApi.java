package weft.server.door;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.Map;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import weft.server.form.FormsApi;
import weft.server.form.RuledJson;
import weft.store.door.Ways.Way;

/** The form behind a door, without what the door leaves out. */
@RestController
class BehindApi {

    private final Clock clock;

    BehindApi(Clock clock) {
        this.clock = clock;
    }

    @GetMapping("/api/doors/{door}/published")
    @Needs
    ResponseEntity<String> published(Way door) {
        return FormsApi.answer(ResponseEntity.ok(), door.shown().document());
    }

    /** What the rules of the published form make of each field, by column. */
    @GetMapping("/api/doors/{door}/ruled")
    @Needs
    Map<String, RuledJson> ruled(Way door) {
        return RuledJson.of(door.shown(), LocalDateTime.now(clock));
    }
}
