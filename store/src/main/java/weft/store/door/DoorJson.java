package weft.store.door;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import weft.core.door.Door;
import weft.core.door.May;
import weft.core.table.Faults;

/**
 * A door document, as it is kept and as the API has it. What is left out of one that is sent is as at a new door.
 *
 * @param same the columns that are keyed once for all lines
 * @param twice which papers are keyed a second time here; none where none is
 */
public record DoorJson(
        @Nullable String id,
        @Nullable String title,
        @Nullable Who who,
        @Nullable List<May> may,
        @Nullable InView view,
        @Nullable Map<String, String> filled,
        @Nullable Fields fields,
        @Nullable Integer takeBack,
        Door.@Nullable Lines lines,
        @Nullable List<String> same,
        Door.@Nullable Keep keep,
        @Nullable Boolean opens,
        Door.@Nullable Done done,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable TwiceJson twice) {

    /** Who may go through. */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    public record Who(
            @Nullable List<String> groups,
            @Nullable List<String> people,
            @Nullable Boolean link,
            @Nullable String from,
            @Nullable String until) {

        /** Who may go through that door. */
        public static Who of(Door door) {
            return new Who(
                    sorted(door.who().groups()),
                    sorted(door.who().people()),
                    door.who().link(),
                    door.who().from().map(LocalDateTime::toString).orElse(null),
                    door.who().until().map(LocalDateTime::toString).orElse(null));
        }
    }

    /** Which records are in view. */
    public record InView(
            @Nullable List<String> where, @Nullable Boolean own) {

        /** Which records are in view by that door. */
        public static InView of(Door door) {
            return new InView(door.view().where(), door.view().own());
        }
    }

    /** Which fields are left out, and which locked. */
    public record Fields(
            @Nullable List<String> leftOut, @Nullable List<String> locked) {

        /** Which fields that door leaves out and locks. */
        public static Fields of(Door door) {
            return new Fields(
                    sorted(door.fields().leftOut()), sorted(door.fields().locked()));
        }
    }

    /** The document of a door. */
    public static DoorJson of(Door door) {
        return new DoorJson(
                door.id(),
                door.title(),
                Who.of(door),
                may(door),
                InView.of(door),
                new TreeMap<>(door.filled()),
                Fields.of(door),
                door.takeBack(),
                door.keying().lines(),
                same(door),
                door.keying().keep(),
                door.opens(),
                door.done(),
                door.twice().map(TwiceJson::of).orElse(null));
    }

    /** What may be done by it, in order. */
    public static List<May> may(Door door) {
        return door.may().stream().sorted().toList();
    }

    /** The columns that are keyed once for all lines. */
    public static List<String> same(Door door) {
        return sorted(door.keying().same());
    }

    static List<String> sorted(Set<String> names) {
        return names.stream().sorted().toList();
    }

    /**
     * The door that it describes.
     *
     * @throws Faults naming each place where it describes none
     */
    public Door door(String form) {
        var named = id == null ? "" : id;
        if (!named.matches("[a-z0-9][a-z0-9_-]{0,79}")) {
            throw new Faults(
                    "id", "A door's id has 1 to 80 small letters, digits, hyphens or underscores, such as log-a-note.");
        }
        var called = title == null ? "" : title.strip();
        if (called.isEmpty() || called.length() > 200) {
            throw new Faults("title", "Give the door a title of 1 to 200 characters.");
        }
        int minutes = takeBack == null ? 0 : takeBack;
        if (minutes < 0 || minutes > Door.LONGEST_TAKE_BACK) {
            throw new Faults(
                    "takeBack", "Entries can be taken back for 0 to " + Door.LONGEST_TAKE_BACK + " minutes, a week.");
        }
        return new Door(
                named,
                called,
                form,
                readWho(),
                Set.copyOf(list(may)),
                view == null ? Door.InView.ALL : new Door.InView(list(view.where()), Boolean.TRUE.equals(view.own())),
                filled == null ? Map.of() : filled,
                fields == null
                        ? Door.Fields.AS_THEY_ARE
                        : new Door.Fields(Set.copyOf(list(fields.leftOut())), Set.copyOf(list(fields.locked()))),
                new Door.Keying(
                        lines == null ? Door.Lines.ONE : lines,
                        Set.copyOf(list(same)),
                        keep == null ? Door.Keep.ALL : keep),
                minutes,
                Boolean.TRUE.equals(opens),
                done == null ? Door.Done.STAY : done,
                Optional.ofNullable(twice).map(TwiceJson::read));
    }

    static <T> List<T> list(@Nullable List<T> given) {
        if (given == null) {
            return List.of();
        }
        if (given.stream().anyMatch(Objects::isNull)) {
            throw new Faults("list", "A list of a door holds names and criteria; it has nothing in one of its places.");
        }
        return given;
    }

    private Door.Who readWho() {
        return who == null
                ? new Door.Who(Set.of(), Set.of(), false, Optional.empty(), Optional.empty())
                : new Door.Who(
                        Set.copyOf(list(who.groups())),
                        Set.copyOf(list(who.people())),
                        Boolean.TRUE.equals(who.link()),
                        time("who.from", who.from()),
                        time("who.until", who.until()));
    }

    private static Optional<LocalDateTime> time(String where, @Nullable String text) {
        if (text == null || text.isBlank()) {
            return Optional.empty();
        }
        try {
            return Optional.of(
                    text.strip().matches("\\d{4}-\\d{2}-\\d{2}")
                            ? LocalDateTime.parse(text.strip() + (where.endsWith("until") ? "T23:59:59" : "T00:00:00"))
                            : LocalDateTime.parse(text.strip()));
        } catch (DateTimeParseException e) {
            throw new Faults(where, "A day or a time is written like 2026-12-31 or 2026-12-31T18:00.");
        }
    }
}
