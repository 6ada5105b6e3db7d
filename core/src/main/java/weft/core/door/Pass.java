package weft.core.door;

import java.time.LocalDateTime;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What one person may do by a door: the one place that decides it.
 *
 * @param door the door
 * @param person who goes through; nobody known, where they have its secret address
 * @param may what they may do
 */
public record Pass(Door door, Optional<Person> person, Set<May> may) {

    private static final Set<May> SHOWING = Set.of(May.SEE, May.EXPORT);

    /** How somebody comes to a door. */
    public sealed interface Comer {

        /** Somebody who is signed in, or their program. */
        record SignedIn(Person person) implements Comer {}

        /** A builder who tries a door, as whoever it is for. */
        record Trying(Person person) implements Comer {}

        /** Somebody who has the secret address of a door. */
        record ByLink(String door) implements Comer {}
    }

    public Pass {
        may = Set.copyOf(may);
    }

    /** The pass of that comer; empty when the door is not there for them. */
    public static Optional<Pass> of(Door door, Comer comer, LocalDateTime now) {
        if (!(comer instanceof Comer.Trying) && !door.who().open(now)) {
            return Optional.empty();
        }
        return switch (comer) {
            case Comer.Trying(var person) ->
                person.builds() ? Optional.of(new Pass(door, Optional.of(person), known(door))) : Optional.empty();
            case Comer.SignedIn(var person) ->
                door.who().lets(person)
                        ? Optional.of(new Pass(door, Optional.of(person), known(door)))
                        : Optional.empty();
            // Whoever has an address is nobody in particular, and sees nothing that others entered.
            case Comer.ByLink(var id) ->
                door.who().link() && door.id().equals(id)
                        ? Optional.of(new Pass(
                                door, Optional.empty(), door.may().contains(May.ADD) ? Set.of(May.ADD) : Set.of()))
                        : Optional.empty();
        };
    }

    /** Who sees no records can only add. */
    private static Set<May> known(Door door) {
        return door.may().contains(May.SEE) ? door.may() : door.may().contains(May.ADD) ? Set.of(May.ADD) : Set.of();
    }

    /** The same to records that nobody can type into: they are only to be seen. */
    public Pass onlySeeing() {
        return new Pass(door, person, may.stream().filter(SHOWING::contains).collect(Collectors.toSet()));
    }

    /** Whether they may do that. */
    public boolean may(May what) {
        return may.contains(what);
    }

    /** Whether every record of the table is in view for them. */
    public boolean seesAll() {
        return may(May.SEE) && door.view().all();
    }

    /** Whether they may take an entry of that time back, if it is their own. */
    public boolean takesBack(LocalDateTime entered, LocalDateTime now) {
        return person.isPresent()
                && may(May.ADD)
                && door.takeBack() > 0
                && !entered.plusMinutes(door.takeBack()).isBefore(now);
    }

    /** The name that records say of who enters them. */
    public String by() {
        return person.map(Person::name).orElse("by the door " + door.id());
    }

    /** What formulas know them as. */
    public String called() {
        return person.map(Person::title).orElse("");
    }

    /** What only they know: keys of saves and open pages of others are not theirs. */
    public String theirs(String key) {
        return door.isEverything()
                ? key
                : door.id() + " " + person.map(Person::name).orElse("") + " " + key;
    }
}
