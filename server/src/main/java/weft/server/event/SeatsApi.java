package weft.server.event;

import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.store.event.Seats;

/** Who else has the form's table open. A page takes a seat every quarter of a minute and leaves it when it is closed. */
@RestController
class SeatsApi {

    private final PreparedForms forms;
    private final Seats seats;

    SeatsApi(PreparedForms forms, Seats seats) {
        this.forms = forms;
        this.seats = seats;
    }

    record Others(List<String> others) {}

    @PutMapping("/api/forms/{form}/seats/{seat}")
    Others take(
            @PathVariable String form,
            @PathVariable String seat,
            @RequestHeader(name = Who.HEADER, required = false) String person) {
        if (!seat.matches("[A-Za-z0-9]{8,40}")) {
            throw Problem.malformed("A seat is named by 8 to 40 letters and digits.");
        }
        return new Others(seats.take(forms.published(form).table(), seat, Who.of(person)));
    }

    @DeleteMapping("/api/forms/{form}/seats/{seat}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(@PathVariable String form, @PathVariable String seat) {
        seats.leave(seat);
    }
}
