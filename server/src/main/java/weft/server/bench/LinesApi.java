package weft.server.bench;

import static weft.server.form.FormsApi.answer;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.core.form.Form;
import weft.core.form.HeadingGuess;
import weft.core.form.QuickLine;
import weft.server.form.Copy;
import weft.server.http.Seen;
import weft.server.table.ColumnJson;
import weft.store.form.Forms;
import weft.store.form.Lines;
import weft.store.form.ReadyForm;

/** Typed lines that make fields, and columns, tables and forms with them. */
@RestController
class LinesApi {

    private static final int MOST_LINES = 400;

    private final Lines lines;
    private final Forms forms;

    LinesApi(Lines lines, Forms forms) {
        this.lines = lines;
        this.forms = forms;
    }

    /** Lines to make fields of, each after the one before; the first after that item, or at the end. */
    record LinesJson(
            @Size(min = 1, max = MOST_LINES, message = "Send from 1 to 400 lines: {\"lines\": [\"Quantity, whole\"]}.")
            List<String> lines,

            @Nullable String after) {

        Optional<String> place() {
            return Optional.ofNullable(after);
        }
    }

    /**
     * A kind of values that a heading's words tell.
     *
     * @param say what is said of it after the heading, as "date"
     * @param why what tells it
     */
    record ProposalJson(String say, String why) {}

    /**
     * What a line would make.
     *
     * @param words what it would make; null when it is unclear
     * @param unclear what would be right; null when it is understood
     * @param made whether its column would be made too
     * @param proposal what its heading tells, where nothing else is said of it; null where it tells nothing
     */
    record LineJson(
            @Nullable String words,
            @Nullable String unclear,
            boolean made,
            @Nullable ProposalJson proposal) {

        static LineJson of(String line, QuickLine.Answer answer) {
            return switch (answer) {
                case QuickLine.QuickField asked ->
                    new LineJson(
                            asked.words(),
                            null,
                            asked.made(),
                            asked.made() && !line.contains(",")
                                    ? HeadingGuess.of(line)
                                            .map(guess -> new ProposalJson(guess.say(), guess.why()))
                                            .orElse(null)
                                    : null);
                case QuickLine.Unclear(var sentence) -> new LineJson(null, sentence, false, null);
            };
        }
    }

    /**
     * Lines of a form from nothing.
     *
     * @param title what the table and the form are called; blank or null for a name that is free
     * @param publish whether the form is to be used at once
     */
    record BeginJson(
            @Size(min = 1, max = MOST_LINES, message = "Send from 1 to 400 lines: {\"lines\": [\"Quantity, whole\"]}.")
            List<String> lines,

            @Size(max = 120, message = "A title has 120 characters at most.") @Nullable
            String title,

            @Nullable Boolean publish) {

        String called() {
            return Objects.requireNonNullElse(title, "").strip();
        }
    }

    /** A form from nothing and its table. */
    record FormBegun(String id, String table) {}

    /**
     * What would be made of lines. Lines that are not understood are left out of it.
     *
     * @param lines each as it was read
     * @param form the form document
     */
    record Sketched(List<LineJson> lines, Form form, String table, List<ColumnJson> columns) {}

    /** What a line would make, or why it is not understood. */
    @PostMapping("/api/forms/{form}/lines/read")
    LineJson read(@Copy ReadyForm form, @RequestBody @Valid LinesJson asked) {
        var line = asked.lines().getFirst();
        return LineJson.of(line, lines.read(line, form));
    }

    /** Makes fields of lines, and the columns that are not there yet. All of it is made or nothing. */
    @PostMapping("/api/forms/{form}/lines")
    ResponseEntity<String> add(@Copy ReadyForm form, Seen seen, Person person, @RequestBody @Valid LinesJson asked) {
        return answer(
                ResponseEntity.ok(), lines.add(form, seen.version(), asked.lines(), asked.place(), person.name()));
    }

    /** A form from nothing: its first lines make a table too. Unless it is asked for, it is not published yet. */
    @PostMapping("/api/forms/begun")
    @ResponseStatus(HttpStatus.CREATED)
    FormBegun begin(Person person, @RequestBody @Valid BeginJson asked) {
        var form = lines.begin(asked.called(), asked.lines()).form();
        if (Boolean.TRUE.equals(asked.publish())) {
            forms.publish(form.id(), person.name());
        }
        return new FormBegun(form.id(), form.table());
    }

    /** What a form from nothing would be. Nothing is made. */
    @PostMapping("/api/forms/begun/read")
    Sketched sketch(@RequestBody @Valid BeginJson asked) {
        var sketch = lines.sketch(asked.called(), asked.lines());
        var read = new ArrayList<LineJson>();
        for (int i = 0; i < asked.lines().size(); i++) {
            read.add(LineJson.of(asked.lines().get(i), sketch.read().get(i)));
        }
        return new Sketched(
                read,
                sketch.form(),
                sketch.table().name(),
                sketch.table().columns().stream().map(ColumnJson::of).toList());
    }
}
