package weft.server.demo;

import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import weft.core.door.Door;
import weft.core.door.Door.Done;
import weft.core.door.Door.Fields;
import weft.core.door.Door.InView;
import weft.core.door.Door.Keying;
import weft.core.door.Door.Lines;
import weft.core.door.Door.Who;
import weft.core.door.May;
import weft.core.door.Person;
import weft.core.twice.Twice;
import weft.server.people.Passwords;
import weft.store.door.Doors;
import weft.store.find.KeptFinds;
import weft.store.find.KeptFinds.NamedFind;
import weft.store.people.Audit;
import weft.store.people.Audit.Deed;
import weft.store.people.Groups;
import weft.store.people.People;

/** The demo's made-up people, and the doors they go through. */
@Component
class Team {

    static final String BUILDER = "odile";

    private static final String VOLUNTEERS = "Volunteers";
    private static final String COORDINATORS = "Coordinators";

    private final People people;
    private final Groups groups;
    private final Passwords passwords;
    private final Doors doors;
    private final KeptFinds finds;
    private final Audit audit;
    private final Map<String, String> names = new HashMap<>();

    Team(People people, Groups groups, Passwords passwords, Doors doors, KeptFinds finds, Audit audit) {
        this.people = people;
        this.groups = groups;
        this.passwords = passwords;
        this.doors = doors;
        this.finds = finds;
        this.audit = audit;
    }

    void comes() {
        group(COORDINATORS);
        group(VOLUNTEERS);
        person(BUILDER, "Odile Marsh", Person.BUILDERS, Person.ADMINISTRATORS);
        person("bram", "Bram Tolley", COORDINATORS);
        person("saffi", "Saffi Keane", VOLUNTEERS);
        person("imre", "Imre Castell", VOLUNTEERS);
    }

    private void group(String name) {
        groups.add(name, name);
        told(Deed.GROUP_MADE, name);
    }

    private void person(String name, String title, String... groups) {
        people.add(
                new People.Edited(name, title, Optional.empty(), List.of(groups), false),
                Optional.of(passwords.encoded(Passwords.OF_DEMO, name)),
                true);
        names.put(title, name);
        told(Deed.PERSON_MADE, title + " (" + name + "): " + String.join(", ", groups));
    }

    /** What somebody of the group signs in by; those who never do are named as they are. */
    String signing(String title) {
        return names.getOrDefault(title, title);
    }

    void told(Deed what, String about) {
        audit.tell(BUILDER, what, about, "the demo");
    }

    void hangsDoors() {
        for (var door : List.of("incidents", "quill-beck-incidents")) {
            finds.keep("incidents", door, new NamedFind("Open incidents", List.of("status:open"), "", ""), BUILDER);
        }
        door(new Door(
                "log-a-note",
                "Log a note",
                "site_notes",
                Who.of(VOLUNTEERS),
                Set.of(May.ADD),
                InView.ALL,
                Map.of("noted_on", "today()", "noted_by", "person"),
                new Fields(Set.of("site_name"), Set.of()),
                Keying.ONE,
                60,
                false,
                Done.BACK));
        door(new Door(
                "my-samples",
                "My samples",
                "samples",
                Who.of(VOLUNTEERS),
                Set.of(May.ADD, May.SEE, May.CHANGE),
                new InView(List.of("taken_on:>= -7"), true),
                Map.of(),
                Fields.AS_THEY_ARE,
                Keying.ONE,
                60,
                true,
                Done.STAY));
        door(new Door(
                "quill-beck-incidents",
                "Incidents at Quill Beck",
                "incidents",
                Who.of(COORDINATORS),
                Set.of(May.SEE, May.CHANGE),
                new InView(List.of("site_code:QB-*"), false),
                Map.of(),
                new Fields(Set.of("cost"), Set.of()),
                Keying.ONE,
                0,
                false,
                Done.STAY));
        door(new Door(
                "all-samples",
                "All samples",
                "samples",
                Who.of(COORDINATORS),
                EnumSet.complementOf(EnumSet.of(May.REMOVE)),
                InView.ALL,
                Map.of(),
                Fields.AS_THEY_ARE,
                Keying.ONE,
                0,
                false,
                Done.STAY));
        door(new Door(
                "report-a-sighting",
                "Report a sighting",
                "incidents",
                new Who(Set.of(), Set.of(), true, Optional.empty(), Optional.empty()),
                Set.of(May.ADD),
                InView.ALL,
                Map.of("status", "\"open\""),
                new Fields(Set.of("severity", "sample", "repair_needed", "cost", "photo", "status"), Set.of()),
                Keying.ONE,
                0,
                false,
                Done.STAY));
        door(counts(
                "counts-of-a-sample",
                "Counts of a sample",
                VOLUNTEERS,
                new Keying(Lines.MANY, Set.of("sample"), Door.Keep.ALL)));
        door(new Door(
                        "counts-again",
                        "Counts again",
                        "counts",
                        Who.of(COORDINATORS),
                        Set.of(May.ADD, May.SEE, May.CHANGE),
                        InView.ALL,
                        Map.of(),
                        Fields.AS_THEY_ARE,
                        Keying.ONE,
                        60,
                        false,
                        Done.STAY)
                .twice(new Twice(
                        5,
                        Twice.Way.BLIND,
                        List.of("sample", "taxon"),
                        Set.of(),
                        Twice.Texts.EXACT,
                        Set.of("counts-of-a-sample", "counts-again"))));
    }

    private static Door counts(String id, String title, String group, Keying keying) {
        return new Door(
                id,
                title,
                "counts",
                Who.of(group),
                Set.of(May.ADD),
                InView.ALL,
                Map.of(),
                Fields.AS_THEY_ARE,
                keying,
                60,
                false,
                Done.STAY);
    }

    private void door(Door door) {
        doors.make(door);
        told(Deed.DOOR_MADE, door.id() + " of " + door.form());
    }
}
