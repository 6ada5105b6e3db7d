package weft.server.form;

import static weft.server.Versions.seen;
import static weft.server.form.FormsApi.answer;
import static weft.server.form.FormsApi.workingCopy;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormChanges;
import weft.core.form.FormMaking;
import weft.core.form.Fray;
import weft.core.form.Placing;
import weft.core.form.QuickLine;
import weft.core.table.Names;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.store.form.Forms;
import weft.store.table.Columns;
import weft.store.table.Tables;

/** The working copy of a form under the hands of its builders. */
@RestController
class BenchApi {

    private static final int MOST_LINES = 400;
    private static final String NEW = "New form";

    private final Forms forms;
    private final PreparedForms prepared;
    private final Tables tables;
    private final Columns columns;
    private final Clock clock;

    BenchApi(Forms forms, PreparedForms prepared, Tables tables, Columns columns, Clock clock) {
        this.forms = forms;
        this.prepared = prepared;
        this.tables = tables;
        this.columns = columns;
        this.clock = clock;
    }

    record Difference(String kind, String item, String words) {
        static List<Difference> between(Form before, Form after) {
            return FormChanges.between(before, after).stream()
                    .map(change -> new Difference(
                            change.kind().name().toLowerCase(Locale.ROOT).replace('_', '-'),
                            change.item(),
                            change.words()))
                    .toList();
        }
    }

    record FrayJson(
            String id,
            @Schema(types = {"string", "null"}) String item,
            String sentence,
            boolean bites,
            @Schema(types = {"string", "null"}) String mend) {}

    /**
     * Where a working copy stands.
     *
     * @param published the latest published version, or none
     * @param changes what is different from it
     */
    record BenchState(
            int revision,
            boolean back,
            boolean forth,
            @Schema(types = {"integer", "null"}) Integer published,
            List<Difference> changes,
            List<FrayJson> frays) {}

    record VersionJson(int version, OffsetDateTime at, String by, List<String> words) {}

    /** Lines to make fields of, each after the one before; the first after that item, or at the end. */
    record Lines(List<String> lines, String after) {}

    record LineJson(
            @Schema(types = {"string", "null"}) String words,
            @Schema(types = {"string", "null"}) String unclear,
            boolean made) {}

    record Mended(String fray) {}

    @GetMapping("/api/forms/{form}/bench")
    BenchState state(@PathVariable String form) {
        var draft = prepared.workingCopy(form);
        var published = forms.published(form);
        var steps = forms.steps(form);
        return new BenchState(
                draft.document().revision(),
                steps.back(),
                steps.forth(),
                published.map(Forms.Document::revision).orElse(null),
                published
                        .map(before -> Difference.between(before.form(), draft.form()))
                        .orElse(List.of()),
                draft.frays(LocalDateTime.now(clock)).stream()
                        .map(fray -> new FrayJson(
                                fray.id(),
                                fray.item().orElse(null),
                                fray.sentence(),
                                fray.bites(),
                                fray.mend().map(Fray.Mend::label).orElse(null)))
                        .toList());
    }

    /** Back to the last state of the working copy, or forth again. */
    @PostMapping("/api/forms/{form}/step")
    ResponseEntity<String> step(
            @PathVariable String form,
            @RequestParam String way,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch) {
        var there = switch (way) {
            case "back" -> Forms.Way.BACK;
            case "forth" -> Forms.Way.FORTH;
            default -> throw Problem.malformed("A step goes back or forth.");
        };
        return answer(ResponseEntity.ok(), forms.step(form, seen(ifMatch), there));
    }

    /** What a line would make, or why it is not understood. */
    @PostMapping("/api/forms/{form}/lines/read")
    LineJson read(@PathVariable String form, @RequestBody Lines asked) {
        var draft = prepared.workingCopy(form);
        return switch (read(
                asked.lines().getFirst(), draft.form(), draft.table().definition())) {
            case QuickLine.Asked line -> new LineJson(line.words(), null, line.made());
            case QuickLine.Unclear(var sentence) -> new LineJson(null, sentence, false);
        };
    }

    private static Form placed(Form form, Lines asked, List<Field> fields) {
        return asked.after() == null ? Placing.atEnd(form, fields) : Placing.after(form, asked.after(), fields);
    }

    private static QuickLine.Answer read(String line, Form form, Table table) {
        return QuickLine.read(line, table, form.conventions());
    }

    /** Makes fields of lines, and the columns that are not there yet. All of it is made or nothing. */
    @PostMapping("/api/forms/{form}/lines")
    ResponseEntity<String> add(
            @PathVariable String form,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody Lines asked) {
        if (asked.lines() == null || asked.lines().isEmpty() || asked.lines().size() > MOST_LINES) {
            throw Problem.malformed("Send from 1 to " + MOST_LINES + " lines: {\"lines\": [\"Quantity, whole\"]}.");
        }
        var draft = prepared.workingCopy(form);
        int revision = seen(ifMatch);
        if (revision != draft.document().revision()) {
            throw new Forms.StaleForm();
        }
        var fields = fields(asked.lines(), draft.form(), draft.table().definition());
        var changed = placed(draft.form(), asked, fields);
        return answer(ResponseEntity.ok(), forms.change(revision, changed, Who.of(person)));
    }

    /** A form from nothing: its first lines make a table too. It is not published yet. */
    @PostMapping("/api/forms/begun")
    @ResponseStatus(HttpStatus.CREATED)
    FormsApi.FormBegun begin(@RequestBody Lines asked) {
        if (asked.lines() == null || asked.lines().isEmpty() || asked.lines().size() > MOST_LINES) {
            throw Problem.malformed("Send from 1 to " + MOST_LINES + " lines: {\"lines\": [\"Quantity, whole\"]}.");
        }
        var taken = tables.list().stream().map(Tables.Listed::name).collect(Collectors.toCollection(HashSet::new));
        var name = Names.name(NEW, 1, taken);
        var title = Names.title(name, 1);
        var bare = FormMaking.from(
                new Table(name, title, List.of(), Table.Placement.AFTER_LAST), name, Conventions.DEFAULT);
        var made = read(asked.lines(), bare, new Table(name, title, List.of(), Table.Placement.AFTER_LAST), true);
        var table = tables.make(made.table());
        var kept = forms.bring(table, Placing.atEnd(bare, made.fields()));
        return new FormsApi.FormBegun(kept.form().id(), name);
    }

    private record Made(Table table, List<Field> fields) {}

    private List<Field> fields(List<String> lines, Form form, Table before) {
        // Records that are there already have nothing in a new column, so that only the form can want it filled.
        boolean empty = tables.rows(prepared.table(before.name())) == 0;
        var made = read(lines, form, before, empty);
        var all = made.table().columns();
        columns.add(before.name(), all.subList(before.columns().size(), all.size()));
        prepared.forget();
        return made.fields();
    }

    private static Made read(List<String> lines, Form form, Table before, boolean empty) {
        var fields = new ArrayList<Field>();
        var table = before;
        for (var line : lines) {
            switch (read(line, form, table)) {
                case QuickLine.Unclear(var sentence) ->
                    throw new Problem(
                            HttpStatus.UNPROCESSABLE_CONTENT,
                            lines.size() == 1 ? sentence : "“%s”: %s".formatted(line.strip(), sentence));
                case QuickLine.Asked(var field, var column, var made, var _) -> {
                    if (made) {
                        var all = new ArrayList<>(table.columns());
                        all.add(column.required(column.required() && empty));
                        table = table.with(all);
                    }
                    fields.add(field);
                }
            }
        }
        return new Made(table, fields);
    }

    /** Makes fields for columns that have none. */
    @PostMapping("/api/forms/{form}/loose-ends")
    ResponseEntity<String> tie(
            @PathVariable String form,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody Lines asked) {
        var draft = prepared.workingCopy(form);
        var fields = asked.lines().stream()
                .map(name -> draft.table()
                        .definition()
                        .column(name)
                        .map(FormMaking::field)
                        .orElseThrow(() -> Problem.unknown("column " + name)))
                .toList();
        var changed = placed(draft.form(), asked, fields);
        return answer(ResponseEntity.ok(), forms.change(seen(ifMatch), changed, Who.of(person)));
    }

    /** Puts a fray right. */
    @PostMapping("/api/forms/{form}/mend")
    ResponseEntity<String> mend(
            @PathVariable String form,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody Mended asked) {
        var draft = prepared.workingCopy(form);
        var mend = draft.frays(LocalDateTime.now(clock)).stream()
                .filter(fray -> fray.id().equals(asked.fray()))
                .findFirst()
                .flatMap(Fray::mend)
                .orElseThrow(() -> Problem.unknown("such fray with a mend"));
        return answer(
                ResponseEntity.ok(), forms.change(seen(ifMatch), mend.change().apply(draft.form()), Who.of(person)));
    }

    /** The published versions, the latest first, each with what it changed. */
    @GetMapping("/api/forms/{form}/versions")
    List<VersionJson> versions(@PathVariable String form) {
        var versions = forms.versions(form);
        var told = new ArrayList<VersionJson>();
        for (int i = 0; i < versions.size(); i++) {
            var each = versions.get(i);
            var before = i + 1 < versions.size() ? Optional.of(versions.get(i + 1)) : Optional.<Forms.Version>empty();
            told.add(new VersionJson(
                    each.version(),
                    each.at(),
                    each.by(),
                    before.map(earlier -> FormChanges.between(earlier.form(), each.form()).stream()
                                    .map(FormChanges.Change::words)
                                    .toList())
                            .orElse(List.of("The form is made"))));
        }
        return told;
    }

    @GetMapping("/api/forms/{form}/versions/{version}")
    ResponseEntity<String> version(@PathVariable String form, @PathVariable int version) {
        return answer(ResponseEntity.ok(), earlier(form, version));
    }

    private Forms.Document earlier(String form, int version) {
        return forms.published(form, version)
                .orElseThrow(() -> Problem.unknown("version " + version + " of form " + form));
    }

    /** What the working copy has that a published version has not. */
    @GetMapping("/api/forms/{form}/versions/{version}/changes")
    List<Difference> changes(@PathVariable String form, @PathVariable int version) {
        return Difference.between(
                earlier(form, version).form(), workingCopy(forms, form).form());
    }

    /** Makes a published version the working copy again. */
    @PostMapping("/api/forms/{form}/versions/{version}/restore")
    ResponseEntity<String> restore(
            @PathVariable String form,
            @PathVariable int version,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person) {
        return answer(
                ResponseEntity.ok(),
                forms.change(seen(ifMatch), earlier(form, version).form(), Who.of(person)));
    }
}
