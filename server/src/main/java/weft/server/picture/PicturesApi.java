package weft.server.picture;

import java.io.IOException;
import java.net.URI;
import java.time.Duration;
import java.util.UUID;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import weft.core.door.May;
import weft.core.door.Person;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.picture.Pictures;

/** Pictures of records. A field holds the identity of one. */
@RestController
class PicturesApi {

    private static final long LARGEST = 20L << 20;

    private final Pictures pictures;

    PicturesApi(Pictures pictures) {
        this.pictures = pictures;
    }

    /** A picture as it was kept: upright, and scaled to what is of use on a screen. */
    record PictureJson(UUID id, String type, int width, int height) {}

    @PostMapping(path = "/api/pictures", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    ResponseEntity<PictureJson> keep(@RequestParam("file") MultipartFile file, Person person) throws IOException {
        return keep(file, "/api/pictures/", person.name());
    }

    @PostMapping(path = "/api/doors/{door}/pictures", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    @Needs({May.ADD, May.CHANGE})
    ResponseEntity<PictureJson> keepByDoor(Way door, @RequestParam("file") MultipartFile file) throws IOException {
        return keep(
                file,
                "/api/doors/" + door.pass().door().id() + "/pictures/",
                door.pass().by());
    }

    private ResponseEntity<PictureJson> keep(MultipartFile file, String where, String by) throws IOException {
        if (file.getSize() > LARGEST) {
            throw new Problem(HttpStatus.CONTENT_TOO_LARGE, "The picture is larger than 20 MB. Make it smaller first.");
        }
        var upright = Upright.of(file.getBytes());
        var id = pictures.keep(upright.picture(), upright.small(), by);
        var kept = upright.picture();
        return ResponseEntity.created(URI.create(where + id))
                .body(new PictureJson(id, kept.type(), kept.width(), kept.height()));
    }

    @GetMapping("/api/pictures/{id}")
    ResponseEntity<byte[]> picture(@PathVariable UUID id, @RequestParam(defaultValue = "false") boolean small) {
        return answer(id, small);
    }

    /** A picture of a record in view, or one that whoever asks has brought. */
    @GetMapping("/api/doors/{door}/pictures/{id}")
    @Needs
    ResponseEntity<byte[]> pictureByDoor(
            Way door, @PathVariable UUID id, @RequestParam(defaultValue = "false") boolean small) {
        if (!door.pass()
                        .person()
                        .map(_ -> pictures.broughtBy(id, door.pass().by()))
                        .orElse(false)
                && !pictures.seen(id, door.shown().seen())) {
            throw Problem.unknown("picture " + id);
        }
        return answer(id, small);
    }

    private ResponseEntity<byte[]> answer(UUID id, boolean small) {
        var picture = pictures.find(id, small).orElseThrow(() -> Problem.unknown("picture " + id));
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType(picture.type()))
                .cacheControl(
                        CacheControl.maxAge(Duration.ofDays(365)).cachePrivate().immutable())
                .header("X-Content-Type-Options", "nosniff")
                .body(picture.bytes());
    }
}
