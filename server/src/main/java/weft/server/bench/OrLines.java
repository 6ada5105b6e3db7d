package weft.server.bench;

import java.util.Optional;
import weft.server.http.Problem;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;

/** The rules that one works on: those of a form, or those of each line of lines on it. */
final class OrLines {

    private OrLines() {}

    /** The form itself, or the lines of that id on it as a form of their own; 404 when it has no such lines. */
    static ReadyForm of(Definitions definitions, ReadyForm form, Optional<String> lines) {
        return lines.map(id -> definitions
                        .lines(form, id)
                        .orElseThrow(() -> Problem.unknown("lines “" + id + "” on this form")))
                .orElse(form);
    }
}
