package weft.core.door;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.util.EnumSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import weft.core.door.Door.Done;
import weft.core.door.Door.Fields;
import weft.core.door.Door.InView;
import weft.core.door.Door.Keying;
import weft.core.door.Door.Who;
import weft.core.door.Pass.Comer;

class PassTest {

    private static final LocalDateTime NOON = LocalDateTime.of(2026, 8, 1, 12, 0);
    private static final Person SAFFI = new Person("saffi", "Saffi Keane", Set.of("Volunteers"));
    private static final Person ODILE = new Person("odile", "Odile Marsh", Set.of(Person.BUILDERS));

    private static Door door(Who who, May... may) {
        return new Door(
                "a-door",
                "A door",
                "samples",
                who,
                may.length == 0 ? Set.of() : Set.of(may),
                InView.ALL,
                Map.of(),
                Fields.AS_THEY_ARE,
                Keying.ONE,
                60,
                false,
                Done.STAY);
    }

    private static Optional<Pass> pass(Door door, Comer comer) {
        return Pass.of(door, comer, NOON);
    }

    @Test
    void aDoorIsThereForItsGroupsItsPersonsAndNobodyElse() {
        var saffi = new Comer.SignedIn(SAFFI);
        assertThat(pass(door(Who.of("Volunteers"), May.ADD), saffi)).isPresent();
        assertThat(pass(door(Who.of("Coordinators"), May.ADD), saffi)).isEmpty();
        var named = new Who(Set.of(), Set.of("saffi"), false, Optional.empty(), Optional.empty());
        assertThat(pass(door(named, May.ADD), saffi)).isPresent();
        assertThat(pass(door(named, May.ADD), new Comer.SignedIn(ODILE))).isEmpty();
        assertThat(pass(Door.everything("samples"), saffi)).isEmpty();
        assertThat(pass(Door.everything("samples"), new Comer.SignedIn(ODILE))
                        .orElseThrow()
                        .may())
                .isEqualTo(EnumSet.allOf(May.class));
    }

    @Test
    void aDoorIsShutBeforeItsTimeAndAfterIt() {
        var saffi = new Comer.SignedIn(SAFFI);
        for (var open : new LocalDateTime[] {NOON, NOON.minusDays(1)}) {
            var from = new Who(Set.of("Volunteers"), Set.of(), false, Optional.of(open), Optional.empty());
            assertThat(pass(door(from, May.ADD), saffi)).isPresent();
        }
        var late = new Who(Set.of("Volunteers"), Set.of(), false, Optional.of(NOON.plusSeconds(1)), Optional.empty());
        assertThat(pass(door(late, May.ADD), saffi)).isEmpty();
        var over = new Who(Set.of("Volunteers"), Set.of(), false, Optional.empty(), Optional.of(NOON.minusSeconds(1)));
        assertThat(pass(door(over, May.ADD), saffi)).isEmpty();
        assertThat(pass(door(over, May.ADD), new Comer.Trying(ODILE)))
                .as("a builder tries it all the same")
                .isPresent();
        assertThat(pass(door(over, May.ADD), new Comer.Trying(SAFFI))).isEmpty();
    }

    /** Whatever else a door says: who cannot see records can only add, and so can whoever has its address. */
    @Test
    void whoSeesNothingCanOnlyAdd() {
        for (int bits = 0; bits < 1 << May.values().length; bits++) {
            var may = EnumSet.noneOf(May.class);
            for (var each : May.values()) {
                if ((bits & 1 << each.ordinal()) != 0) {
                    may.add(each);
                }
            }
            var open = new Who(Set.of("Volunteers"), Set.of(), true, Optional.empty(), Optional.empty());
            var door = door(open, may.toArray(May[]::new));
            var added = may.contains(May.ADD) ? Set.of(May.ADD) : Set.<May>of();
            var known = pass(door, new Comer.SignedIn(SAFFI)).orElseThrow();
            assertThat(known.may()).isEqualTo(may.contains(May.SEE) ? may : added);
            assertThat(known.seesAll()).isEqualTo(may.contains(May.SEE));
            var linked = pass(door, new Comer.ByLink("a-door")).orElseThrow();
            assertThat(linked.may()).isEqualTo(added);
            assertThat(linked.person()).isEmpty();
            assertThat(pass(door, new Comer.ByLink("another"))).isEmpty();
        }
        var shut = door(Who.of("Volunteers"), May.ADD);
        assertThat(pass(shut, new Comer.ByLink("a-door"))).isEmpty();
    }

    @Test
    void onesOwnEntriesAreTakenBackForAWhile() {
        var pass = pass(door(Who.of("Volunteers"), May.ADD), new Comer.SignedIn(SAFFI))
                .orElseThrow();
        assertThat(pass.takesBack(NOON.minusMinutes(60), NOON)).isTrue();
        assertThat(pass.takesBack(NOON.minusMinutes(61), NOON)).isFalse();
        var open = new Who(Set.of(), Set.of(), true, Optional.empty(), Optional.empty());
        var anybody = pass(door(open, May.ADD), new Comer.ByLink("a-door")).orElseThrow();
        assertThat(anybody.takesBack(NOON, NOON))
                .as("nobody in particular has nothing of their own")
                .isFalse();
    }

    /** What one person keeps under a key is nobody else's, nor theirs by another door. */
    @Test
    void keysAreOnesOwn() {
        var door = door(Who.of("Volunteers"), May.ADD);
        var saffi = pass(door, new Comer.SignedIn(SAFFI)).orElseThrow();
        var imre = pass(door, new Comer.SignedIn(new Person("imre", "Imre", Set.of("Volunteers"))))
                .orElseThrow();
        assertThat(saffi.theirs("k")).isNotEqualTo(imre.theirs("k")).isEqualTo(saffi.theirs("k"));
    }
}
