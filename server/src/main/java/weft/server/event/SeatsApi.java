package weft.server.event;

import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.form.Copy;
import weft.server.http.Person;
import weft.server.http.Problem;
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

    @PutMapping("/api/forms/{form}/seats/{seat}")
    Others take(ReadyForm form, @PathVariable String seat, Person person) {
        return take(form, Optional.empty(), seat, person);
    }

    /** The same at the Bench of a form. */
    @PutMapping("/api/forms/{form}/bench/seats/{seat}")
    Others takeAtBench(@Copy ReadyForm form, @PathVariable String seat, Person person) {
        return take(form, Optional.of(form.form().id()), seat, person);
    }

    private Others take(ReadyForm form, Optional<String> bench, String seat, Person person) {
        if (!seat.matches("[A-Za-z0-9]{8,40}")) {
            throw Problem.malformed("A seat is named by 8 to 40 letters and digits.");
        }
        return new Others(seats.take(form.table().id(), bench, seat, person.name()));
    }

    @DeleteMapping({"/api/forms/{form}/seats/{seat}", "/api/forms/{form}/bench/seats/{seat}"})
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(@Copy ReadyForm form, @PathVariable String seat) {
        seats.leave(seat);
    }
}
