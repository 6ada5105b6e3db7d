package weft.server.event;

import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.door.Person;
import weft.server.door.Needs;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.event.Seats;
import weft.store.form.ReadyForm;

/** Who else has the form's table open. A page takes a seat every quarter of a minute and leaves it when it is closed. */
@RestController
class SeatsApi {

    private final Seats seats;

    SeatsApi(Seats seats) {
        this.seats = seats;
    }

    record Others(List<String> others) {}

    @PutMapping("/api/doors/{door}/seats/{seat}")
    @Needs(May.SEE)
    Others take(Way door, @PathVariable String seat) {
        return take(door.saving(), Optional.empty(), seat, door.pass().called());
    }

    /** The same at the Bench of a form. */
    @PutMapping("/api/forms/{form}/bench/seats/{seat}")
    Others takeAtBench(@Copy ReadyForm form, @PathVariable String seat, Person person) {
        return take(form, Optional.of(form.form().id()), seat, person.title());
    }

    private Others take(ReadyForm form, Optional<String> bench, String seat, String person) {
        if (!seat.matches("[A-Za-z0-9]{8,40}")) {
            throw Problem.malformed("A seat is named by 8 to 40 letters and digits.");
        }
        return new Others(seats.take(form.table().id(), bench, seat, person));
    }

    @DeleteMapping("/api/doors/{door}/seats/{seat}")
    @Needs(May.SEE)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(Way door, @PathVariable String seat) {
        seats.leave(seat);
    }

    @DeleteMapping("/api/forms/{form}/bench/seats/{seat}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leaveBench(@Copy ReadyForm form, @PathVariable String seat) {
        seats.leave(seat);
    }
}
