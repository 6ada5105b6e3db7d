package weft.server.door;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Door;
import weft.core.door.May;
import weft.core.door.Pass;
import weft.core.table.Faults;
import weft.core.twice.Twice;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.server.http.Signed;
import weft.server.people.AuditTrail;
import weft.store.door.DoorJson;
import weft.store.door.Doors;
import weft.store.door.TwiceJson;
import weft.store.door.Ways;
import weft.store.door.Ways.Way;
import weft.store.form.Definitions;
import weft.store.form.PlannedForm;
import weft.store.form.ReadyForm;
import weft.store.people.Audit.Deed;
import weft.store.people.Groups;
import weft.store.people.People;
import weft.store.table.Tables;
import weft.store.twice.Papers;

/** Doors as builders make them, and those that a person may go through. */
@RestController
class DoorsApi {

    private final Doors doors;
    private final Ways ways;
    private final Definitions definitions;
    private final People people;
    private final Groups groups;
    private final Papers papers;
    private final Tables tables;
    private final AuditTrail told;
    private final Clock clock;

    DoorsApi(
            Doors doors,
            Ways ways,
            Definitions definitions,
            People people,
            Groups groups,
            Papers papers,
            Tables tables,
            AuditTrail told,
            Clock clock) {
        this.doors = doors;
        this.ways = ways;
        this.definitions = definitions;
        this.people = people;
        this.groups = groups;
        this.papers = papers;
        this.tables = tables;
        this.told = told;
        this.clock = clock;
    }

    /**
     * A door that one may go through.
     *
     * @param all whether every record is in view
     * @param rows how many records there are; left out where not all of them may be seen, and of views, which would have to be counted
     * @param takeBack for how many minutes one may take an entry of one's own back; 0 for never
     * @param same the columns that are keyed once for all lines; none for those that the form carries over
     * @param byLink whether whoever goes through is nobody in particular, with its secret address
     * @param twice how papers are keyed a second time here; left out where none is
     * @param keyedTwice whether entries of its form are keyed twice at any of its doors, so that records stand differently
     */
    record DoorListed(
            String id,
            String title,
            String form,
            String formTitle,
            String table,
            List<May> may,
            boolean all,

            @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable
            Long rows,

            int takeBack,
            boolean opens,
            Door.Done done,
            Door.Lines lines,
            List<String> same,
            Door.Keep keep,
            boolean byLink,

            @JsonInclude(JsonInclude.Include.NON_NULL) Twice.@Nullable Way twice,

            boolean keyedTwice) {}

    @GetMapping("/api/doors")
    List<DoorListed> mine() {
        var now = LocalDateTime.now(clock);
        var listed = new ArrayList<DoorListed>();
        var rows = tables.counts();
        for (var door : doors.all()) {
            Signed.comer(door.id())
                    .flatMap(comer -> Pass.of(door, comer, now))
                    .filter(pass -> !pass.may().isEmpty())
                    .flatMap(pass ->
                            definitions.published(door.form()).map(form -> listed(Ways.pass(form, pass), form, rows)))
                    .ifPresent(listed::add);
        }
        return listed;
    }

    /** The same of one door. */
    @GetMapping("/api/doors/{door}")
    @Needs
    DoorListed one(Way door) {
        return listed(door.pass(), door.shown(), tables.counts());
    }

    private DoorListed listed(Pass pass, PlannedForm form, Map<String, Long> rows) {
        var door = pass.door();
        var table = form.seen().definition().name();
        return new DoorListed(
                door.id(),
                door.title(),
                door.form(),
                form.form().title(),
                table,
                pass.may().stream().sorted().toList(),
                pass.seesAll(),
                pass.may(May.SEE) && pass.seesAll() ? rows.get(table) : null,
                door.takeBack(),
                door.opens(),
                door.done(),
                door.keying().lines(),
                DoorJson.same(door),
                door.keying().keep(),
                pass.person().isEmpty(),
                pass.person().isEmpty() ? null : door.twice().map(Twice::way).orElse(null),
                papers.twice(door.form()));
    }

    /**
     * A door document, and what is to be known of it.
     *
     * @param everything whether it is the one that the form was born with, which stays as it is
     * @param linked whether it has a secret address now
     * @param frays what of it does not fit its form and its table
     */
    record DoorAnswer(
            String id,
            String title,
            DoorJson.Who who,
            List<May> may,
            DoorJson.InView view,
            Map<String, String> filled,
            DoorJson.Fields fields,
            int takeBack,
            Door.Lines lines,
            List<String> same,
            Door.Keep keep,
            boolean opens,
            Door.Done done,

            @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable
            TwiceJson twice,

            boolean everything,
            boolean linked,
            List<String> frays) {}

    private DoorAnswer answer(Doors.StoredDoor kept, ReadyForm form) {
        var door = kept.door().following(form.table().definition());
        return new DoorAnswer(
                door.id(),
                door.title(),
                DoorJson.Who.of(door),
                DoorJson.may(door),
                DoorJson.InView.of(door),
                new TreeMap<>(door.filled()),
                DoorJson.Fields.of(door),
                door.takeBack(),
                door.keying().lines(),
                DoorJson.same(door),
                door.keying().keep(),
                door.opens(),
                door.done(),
                door.twice().map(TwiceJson::of).orElse(null),
                door.isEverything(),
                kept.linked(),
                door.isEverything() ? List.of() : ways.frays(form, door, LocalDateTime.now(clock)));
    }

    private ResponseEntity<DoorAnswer> answer(
            ResponseEntity.BodyBuilder answer, Doors.StoredDoor kept, ReadyForm form) {
        return answer.eTag(Seen.etag(kept.revision())).body(answer(kept, form));
    }

    @GetMapping("/api/forms/{form}/doors")
    List<DoorAnswer> ofForm(@Copy ReadyForm form) {
        return doors.of(form.form().id()).stream()
                .map(kept -> answer(kept, form))
                .toList();
    }

    @PostMapping("/api/forms/{form}/doors")
    ResponseEntity<DoorAnswer> make(@Copy ReadyForm form, @RequestBody DoorJson asked) {
        var id = form.form().id();
        var kept = doors.make(known(named(asked).door(id)));
        told.of(Deed.DOOR_MADE, kept.door().id() + " of " + id);
        return answer(
                ResponseEntity.created(
                        URI.create("/api/forms/" + id + "/doors/" + kept.door().id())),
                kept,
                form);
    }

    /** With an id made of its title where it has none. */
    private static DoorJson named(DoorJson asked) {
        if (asked.id() != null || asked.title() == null) {
            return asked;
        }
        var id = asked.title()
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "");
        return new DoorJson(
                id,
                asked.title(),
                asked.who(),
                asked.may(),
                asked.view(),
                asked.filled(),
                asked.fields(),
                asked.takeBack(),
                asked.lines(),
                asked.same(),
                asked.keep(),
                asked.opens(),
                asked.done(),
                asked.twice());
    }

    /** With its groups and persons by the names they have; none that there is not. */
    private Door known(Door door) {
        var all = groups.all();
        var named = new LinkedHashSet<String>();
        for (var asked : door.who().groups()) {
            named.add(all.stream()
                    .filter(group -> group.name().equalsIgnoreCase(asked)
                            || group.title().equalsIgnoreCase(asked))
                    .map(Groups.Group::name)
                    .findFirst()
                    .orElseThrow(() -> new Faults("who.groups", "There is no group “" + asked + "”.")));
        }
        var persons = new LinkedHashSet<String>();
        for (var asked : door.who().people()) {
            persons.add(people.named(asked)
                    .map(People.Account::name)
                    .orElseThrow(() -> new Faults("who.people", "There is no person “" + asked + "”.")));
        }
        return door.let(new Door.Who(
                Set.copyOf(named),
                Set.copyOf(persons),
                door.who().link(),
                door.who().from(),
                door.who().until()));
    }

    private Doors.StoredDoor kept(ReadyForm form, String door) {
        return doors.find(door)
                .filter(kept -> kept.door().form().equals(form.form().id()))
                .orElseThrow(() -> Problem.unknown("door “" + door + "” of this form"));
    }

    private Doors.StoredDoor changeable(ReadyForm form, String door) {
        var kept = kept(form, door);
        if (kept.door().isEverything()) {
            throw Problem.refused("The door Everything is for builders and stays as it is. Make another door.");
        }
        return kept;
    }

    @GetMapping("/api/forms/{form}/doors/{door}")
    ResponseEntity<DoorAnswer> door(@Copy ReadyForm form, @PathVariable String door) {
        return answer(ResponseEntity.ok(), kept(form, door), form);
    }

    @PutMapping("/api/forms/{form}/doors/{door}")
    ResponseEntity<DoorAnswer> change(
            @Copy ReadyForm form, @PathVariable String door, Seen seen, @RequestBody DoorJson asked) {
        int revision = seen.version();
        changeable(form, door);
        var changed = known(asked.door(form.form().id()));
        if (!changed.id().equals(door)) {
            throw Problem.malformed("A door keeps its id: " + door + ".");
        }
        try {
            var kept = doors.change(changed, revision);
            told.of(Deed.DOOR_CHANGED, door + " of " + form.form().id());
            return answer(ResponseEntity.ok(), kept, form);
        } catch (Doors.Changed e) {
            throw new Problem(
                    HttpStatus.PRECONDITION_FAILED, "Somebody else changed this door meanwhile. Load it again.");
        }
    }

    @DeleteMapping("/api/forms/{form}/doors/{door}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@Copy ReadyForm form, @PathVariable String door, Seen seen) {
        var kept = changeable(form, door);
        if (seen.said() && seen.version() != kept.revision()) {
            throw new Problem(
                    HttpStatus.PRECONDITION_FAILED, "Somebody else changed this door meanwhile. Load it again.");
        }
        doors.remove(door);
        told.of(Deed.DOOR_REMOVED, door + " of " + form.form().id());
    }

    /** A secret address. */
    record Address(String address) {}

    /** Gives a door for anybody a new secret address; the one before stops working. */
    @PostMapping("/api/forms/{form}/doors/{door}/link")
    Address link(@Copy ReadyForm form, @PathVariable String door, HttpServletRequest request) {
        var kept = changeable(form, door);
        if (!kept.door().who().link()) {
            throw Problem.refused("Let anybody with the secret address go through this door first.");
        }
        var secret = doors.link(door);
        told.of(Deed.DOOR_ADDRESS, door + " of " + form.form().id());
        return new Address(request.getRequestURL().toString().replaceFirst("/api/.*", "/l/" + secret.text()));
    }

    /** Whom a door can be for. */
    record Whom(List<GroupNamed> groups, List<PersonNamed> people) {}

    record GroupNamed(String name, String title) {}

    record PersonNamed(String name, String title) {}

    /**
     * Groups and persons that a door can be for.
     *
     * @param after only persons after that name
     */
    @GetMapping("/api/forms/{form}/doors/whom")
    Whom whom(@Copy ReadyForm form, @Nullable String after) {
        return new Whom(
                groups.all().stream()
                        .map(group -> new GroupNamed(group.name(), group.title()))
                        .toList(),
                people.page(Optional.ofNullable(after).orElse(""), 500).stream()
                        .map(person -> new PersonNamed(person.name(), person.title()))
                        .toList());
    }
}
