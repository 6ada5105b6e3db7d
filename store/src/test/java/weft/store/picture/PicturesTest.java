package weft.store.picture;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.store.Given.values;

import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.picture.Pictures.Picture;
import weft.store.record.Records;

@ExtendWith(TestDatabase.class)
class PicturesTest {

    private final Pictures pictures = new Pictures(TestDatabase.get().sql(), Clock.systemDefaultZone());
    private final Records records = new Records(TestDatabase.get().sql());

    private UUID kept() {
        return pictures.keep(new Picture("image/png", 1, 1, new byte[] {1}), new byte[] {1}, "Odile");
    }

    @Test
    void only_pictures_that_no_record_ever_named_are_forgotten_and_only_when_they_are_old() {
        var table = Given.table("after-last", "site text", "photo picture");
        var stored = kept();
        var replaced = kept();
        var removed = kept();
        var unnamed = kept();
        var first = Given.saved(table, values("photo", new Value.Image(replaced)), Optional.empty(), "Odile");
        Given.changed(table, first.id(), 1, values("photo", new Value.Image(stored)), "Bram");
        var second = Given.saved(table, values("photo", new Value.Image(removed)), Optional.empty(), "Odile");
        records.delete(table, second.id(), 1, "Imre");

        pictures.forget(Duration.ofDays(1));
        assertThat(pictures.find(unnamed, false)).isPresent();
        pictures.forget(Duration.ZERO);
        assertThat(pictures.find(unnamed, false)).isEmpty();
        assertThat(pictures.find(stored, true)).isPresent();
        assertThat(pictures.find(replaced, false)).isPresent();
        assertThat(pictures.find(removed, false)).isPresent();
    }
}
