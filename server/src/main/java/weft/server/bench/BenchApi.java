package weft.server.bench;

import static weft.server.form.FormsApi.answer;

import jakarta.validation.Valid;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.node.ObjectNode;
import weft.core.door.Person;
import weft.core.form.Form;
import weft.core.form.FormChanges;
import weft.core.form.FormChanges.Worded;
import weft.core.form.FormMaking;
import weft.core.form.Fray;
import weft.core.rule.Rules;
import weft.server.form.Copy;
import weft.server.form.RuledJson;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.store.door.Doors;
import weft.store.door.Ways;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.FormJson;
import weft.store.form.Forms;
import weft.store.form.Lines;
import weft.store.form.ReadyForm;
import weft.store.people.People;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** The working copy of a form under the hands of its builders. */
@RestController
class BenchApi {

    private final Forms forms;
    private final Definitions definitions;
    private final Tables tables;
    private final Doors doors;
    private final Ways ways;
    private final People people;
    private final Clock clock;

    BenchApi(Forms forms, Tables tables, Definitions definitions, Doors doors, Ways ways, People people, Clock clock) {
        this.forms = forms;
        this.tables = tables;
        this.definitions = definitions;
        this.doors = doors;
        this.ways = ways;
        this.people = people;
        this.clock = clock;
    }

    /**
     * What is different.
     *
     * @param words what it is now; of a rule its sentence
     * @param before the sentence that a rule was before; empty for a new one, and for all else
     */
    record Difference(FormChanges.Kind kind, String item, String words, String before) {
        static Difference of(FormChanges.ItemChange change) {
            return new Difference(change.kind(), change.item(), change.words(), change.before());
        }
    }

    private List<Difference> between(Form before, ReadyForm after) {
        return FormChanges.between(worded(before, after), worded(after.form(), after)).stream()
                .map(Difference::of)
                .toList();
    }

    /** A form, or what it was before, by the names that its table has now. */
    private Worded worded(Form state, ReadyForm form) {
        return Worded.of(
                state,
                form.table().definition(),
                name -> definitions.table(name).map(StoredTable::definition));
    }

    record FrayJson(
            String id,
            @Nullable String item,
            String sentence,
            boolean bites,
            @Nullable String mend) {
        static FrayJson of(Fray fray) {
            return new FrayJson(
                    fray.id(),
                    fray.item().orElse(null),
                    fray.sentence(),
                    fray.bites(),
                    fray.mend().map(Fray.Mend::label).orElse(null));
        }
    }

    /**
     * Where a working copy stands.
     *
     * @param published the latest published version, or none
     * @param changes what is different from it
     * @param rules its rules and its table's as sentences, in the order in which they act
     * @param lines those of lines on it, by their id
     * @param marks what rules do with each field, in a word, by column
     * @param ruled what they make of each field, by column
     */
    record BenchState(
            int revision,
            boolean back,
            boolean forth,
            @Nullable Integer published,
            List<Difference> changes,
            List<FrayJson> frays,
            List<RuleJson> rules,
            Map<String, List<RuleJson>> lines,
            Map<String, Rules.Mark> marks,
            Map<String, RuledJson> ruled) {}

    record VersionJson(int version, OffsetDateTime at, String by, List<String> words) {}

    /** The lines that could stand on the form: of each table that links to its table, as a form on that one has them. */
    @GetMapping("/api/forms/{form}/bench/lines")
    List<ObjectNode> lines(@Copy ReadyForm form) {
        return tables.linkingTo(form.table()).stream()
                .map(linking -> FormMaking.lines(
                        linking.in().definition(),
                        linking.column(),
                        forms.publishedOn(linking.in().definition().name()).stream()
                                .findFirst()))
                .map(FormJson::lines)
                .toList();
    }

    record Mended(String fray) {}

    @GetMapping("/api/forms/{form}/bench")
    BenchState state(@Copy ReadyForm form) {
        var id = form.form().id();
        var published = definitions.published(id);
        var steps = forms.steps(id);
        return new BenchState(
                form.document().revision(),
                steps.back(),
                steps.forth(),
                published.map(before -> before.document().revision()).orElse(null),
                published.map(before -> between(before.form(), form)).orElse(List.of()),
                frays(form).stream().map(FrayJson::of).toList(),
                RuleJson.of(form),
                form.form()
                        .lines()
                        .flatMap(lines -> definitions.lines(form, lines.id()).stream()
                                .map(each -> Map.entry(lines.id(), RuleJson.of(each))))
                        .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue)),
                form.form().rules().marks(),
                RuledJson.of(form, LocalDateTime.now(clock)));
    }

    /** Those of the form, and of the doors to it. */
    private List<Fray> frays(ReadyForm form) {
        var now = LocalDateTime.now(clock);
        var frays = new ArrayList<>(form.frays(now));
        doors.of(form.form().id()).stream()
                .map(Doors.StoredDoor::door)
                .filter(door -> !door.isEverything())
                .forEach(door -> ways.frays(form, door, now)
                        .forEach(sentence -> frays.add(Fray.ofDoor(door.id(), door.title(), sentence))));
        return frays;
    }

    /** Back to the last state of the working copy, or forth again. */
    @PostMapping("/api/forms/{form}/step")
    ResponseEntity<String> step(@PathVariable String form, @RequestParam Forms.Way way, Seen seen) {
        return answer(ResponseEntity.ok(), forms.step(form, seen.version(), way));
    }

    /** Makes fields for columns that have none. */
    @PostMapping("/api/forms/{form}/loose-ends")
    ResponseEntity<String> tie(
            @Copy ReadyForm form, Seen seen, Person person, @RequestBody @Valid LinesApi.LinesJson asked) {
        var fields = asked.lines().stream()
                .map(name -> form.table()
                        .definition()
                        .column(name)
                        .map(FormMaking::field)
                        .orElseThrow(() -> Problem.unknown("column " + name)))
                .toList();
        return changed(seen, Lines.placed(form.form(), asked.place(), fields), person);
    }

    /** Puts a fray right. */
    @PostMapping("/api/forms/{form}/mend")
    ResponseEntity<String> mend(@Copy ReadyForm form, Seen seen, Person person, @RequestBody Mended asked) {
        var mend = frays(form).stream()
                .filter(fray -> fray.id().equals(asked.fray()))
                .findFirst()
                .flatMap(Fray::mend)
                .orElseThrow(() -> Problem.unknown("such fray with a mend"));
        return changed(seen, mend.change().apply(form.form()), person);
    }

    private ResponseEntity<String> changed(Seen seen, Form form, Person person) {
        return answer(ResponseEntity.ok(), forms.change(seen.version(), FormDocument.checked(form), person.name()));
    }

    /** The published versions, the latest first, each with what it changed. */
    @GetMapping("/api/forms/{form}/versions")
    List<VersionJson> versions(@Copy ReadyForm form) {
        var versions = forms.versions(form.form().id());
        var titles = people.titles(versions.stream().map(Forms.Version::by).toList());
        var told = new ArrayList<VersionJson>();
        for (int i = 0; i < versions.size(); i++) {
            var each = versions.get(i);
            var before = i + 1 < versions.size() ? Optional.of(versions.get(i + 1)) : Optional.<Forms.Version>empty();
            told.add(new VersionJson(
                    each.version(),
                    each.at(),
                    titles.apply(each.by()),
                    before.map(earlier ->
                                    FormChanges.between(worded(earlier.form(), form), worded(each.form(), form))
                                            .stream()
                                            .map(FormChanges.ItemChange::words)
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
        return definitions
                .published(form, version)
                .map(ReadyForm::document)
                .orElseThrow(() -> Problem.unknown("version " + version + " of form " + form));
    }

    /** What the working copy has that a published version has not. */
    @GetMapping("/api/forms/{form}/versions/{version}/changes")
    List<Difference> changes(@Copy ReadyForm form, @PathVariable int version) {
        return between(earlier(form.form().id(), version).form(), form);
    }

    /** Makes a published version the working copy again. */
    @PostMapping("/api/forms/{form}/versions/{version}/restore")
    ResponseEntity<String> restore(@PathVariable String form, @PathVariable int version, Seen seen, Person person) {
        return changed(seen, earlier(form, version).form(), person);
    }
}
