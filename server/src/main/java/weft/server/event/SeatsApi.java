package weft.server.event;

import java.util.List;
import java.util.Optional;
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
import weft.store.table.StoredTable;

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
        return take(forms.published(form).table(), Optional.empty(), seat, person);
    }

    /** The same at the Bench of a form. */
    @PutMapping("/api/forms/{form}/bench/seats/{seat}")
    Others takeAtBench(
            @PathVariable String form,
            @PathVariable String seat,
            @RequestHeader(name = Who.HEADER, required = false) String person) {
        return take(forms.workingCopy(form).table(), Optional.of(form), seat, person);
    }

    private Others take(StoredTable table, Optional<String> bench, String seat, String person) {
        if (!seat.matches("[A-Za-z0-9]{8,40}")) {
            throw Problem.malformed("A seat is named by 8 to 40 letters and digits.");
        }
        return new Others(seats.take(table, bench, seat, Who.of(person)));
    }

    @DeleteMapping({"/api/forms/{form}/seats/{seat}", "/api/forms/{form}/bench/seats/{seat}"})
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(@PathVariable String form, @PathVariable String seat) {
        seats.leave(seat);
    }
}
