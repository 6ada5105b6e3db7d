package weft.store.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.door.Person;
import weft.core.table.Faults;
import weft.store.TestDatabase;
import weft.store.people.People.Edited;

@ExtendWith(TestDatabase.class)
class PeopleTest {

    private final Clock clock = Clock.systemDefaultZone();
    private final People people = new People(TestDatabase.get().sql(), clock);
    private final Invitations invitations = new Invitations(TestDatabase.get().sql(), clock);

    private static Edited said(String name, String... groups) {
        return new Edited(name, "Of the tests", Optional.empty(), List.of(groups), false);
    }

    private long administrator(String name) {
        return people.add(said(name, Person.ADMINISTRATORS), Optional.of("x"), false)
                .id();
    }

    /** Two who take each other's rights away at the same moment leave one of them. */
    @Test
    void oneAdministratorIsAlwaysLeft() throws Exception {
        long one = administrator("last-one");
        assertThatExceptionOfType(Faults.class).isThrownBy(() -> people.change(one, said("last-one")));
        assertThatExceptionOfType(Faults.class).isThrownBy(() -> people.remove(one));
        var stopped = new Edited("last-one", "x", Optional.empty(), Set.of(Person.ADMINISTRATORS), true);
        assertThatExceptionOfType(Faults.class).isThrownBy(() -> people.change(one, stopped));
        // Somebody invited who never came is nobody who could let others in.
        people.add(said("last-invited", Person.ADMINISTRATORS), Optional.empty(), false);
        assertThatExceptionOfType(Faults.class).isThrownBy(() -> people.change(one, said("last-one")));

        for (int round = 0; round < 20; round++) {
            long other = administrator("last-other-" + round);
            people.change(one, said("last-one", Person.ADMINISTRATORS));
            try (var pool = Executors.newFixedThreadPool(2)) {
                Callable<Object> away = () -> people.change(one, said("last-one"));
                Callable<Object> otherAway = () -> people.remove(other);
                pool.invokeAll(List.of(away, otherAway));
            }
            assertThat(people.page("", 500))
                    .filteredOn(each ->
                            each.person().administers() && each.password().isPresent())
                    .as("round %d", round)
                    .isNotEmpty();
            people.find(other).ifPresent(_ -> {
                people.change(one, said("last-one", Person.ADMINISTRATORS));
                people.remove(other);
            });
        }
    }

    @Test
    void whatIsSaidOfAPersonIsCheckedWhereItIsSaid() {
        for (var name : new String[] {"", "Has Capitals", "a b", "-x", "x".repeat(41)}) {
            assertThatExceptionOfType(Faults.class)
                    .isThrownBy(() -> people.add(said(name), Optional.empty(), false))
                    .satisfies(faults ->
                            assertThat(faults.faults().getFirst().where()).isEqualTo("name"));
        }
        assertThatExceptionOfType(Faults.class)
                .isThrownBy(() -> people.add(said("grouped", "No such"), Optional.empty(), false))
                .withMessageContaining("No such");
        var mailed = new Edited("mailed", "x", Optional.of("nowhere"), List.of(), false);
        assertThatExceptionOfType(Faults.class).isThrownBy(() -> people.add(mailed, Optional.empty(), false));
        assertThat(people.add(said("groups-by-title", "builders"), Optional.empty(), false)
                        .groups())
                .containsExactly(Person.BUILDERS);
    }

    @Test
    void anInvitationBeforeTheLastIsDead() {
        long id = people.add(said("asked-twice"), Optional.empty(), false).id();
        var first = invitations.invite(id);
        var second = invitations.invite(id);
        assertThat(invitations.invited(first)).isEmpty();
        assertThat(invitations.accept(first, Optional.empty(), "p")).isEmpty();
        assertThat(invitations.accept(second, Optional.empty(), "p")).isPresent();
        assertThat(invitations.accept(second, Optional.empty(), "p")).isEmpty();
        assertThat(people.find(id).orElseThrow().password()).contains("p");
    }

    @Test
    void anInvitationIsDeadAfterSevenDays() {
        long id = people.add(said("asked-late"), Optional.empty(), false).id();
        var secret = invitations.invite(id);
        var before = later(Duration.ofDays(7).minusMinutes(1));
        var after = later(Duration.ofDays(7).plusMinutes(1));
        assertThat(before.invited(secret)).isPresent();
        assertThat(after.invited(secret)).isEmpty();
        assertThat(after.accept(secret, Optional.empty(), "p")).isEmpty();
    }

    private Invitations later(Duration by) {
        return new Invitations(TestDatabase.get().sql(), Clock.offset(clock, by));
    }

    /** After five failures with a name from an address each try waits, twice as long each time, and an hour later none does. */
    @Test
    void whoFailsToSignInWaitsAndAllIsForgottenInTime() {
        var failures = new FailedSignIns(TestDatabase.get().sql(), clock);
        for (int times = 1; times <= 5; times++) {
            assertThat(failures.begin("late", "192.0.2.9")).as("%d", times).isZero();
        }
        assertThat(failures.begin("late", "192.0.2.9")).isBetween(Duration.ofSeconds(20), Duration.ofSeconds(30));
        var soon = new FailedSignIns(TestDatabase.get().sql(), Clock.offset(clock, Duration.ofSeconds(31)));
        assertThat(soon.begin("late", "192.0.2.9")).isZero();
        assertThat(soon.begin("late", "192.0.2.9")).isBetween(Duration.ofSeconds(50), Duration.ofSeconds(60));
        assertThat(failures.forget()).isZero();
        var quiet = new FailedSignIns(TestDatabase.get().sql(), Clock.offset(clock, Duration.ofMinutes(17)));
        assertThat(quiet.begin("late", "192.0.2.9")).isZero();
        assertThat(quiet.begin("late", "192.0.2.9")).isZero();
        var hours = new FailedSignIns(TestDatabase.get().sql(), Clock.offset(clock, Duration.ofHours(2)));
        assertThat(hours.forget()).isGreaterThanOrEqualTo(2);
    }

    @Test
    void typosOfManyDoNotAddUpWhereOthersSignIn() {
        var failures = new FailedSignIns(TestDatabase.get().sql(), clock);
        for (int day = 0; day < 4; day++) {
            for (int typo = 0; typo < 29; typo++) {
                assertThat(failures.begin("typo" + typo, "192.0.2.10")).isZero();
            }
            assertThat(failures.begin("right", "192.0.2.10")).isZero();
            failures.passed("right", "192.0.2.10");
        }
    }

    @Test
    void ofManyGuessesAtOnceNoMoreAreLookedAtThanMayBe() {
        var failures = new FailedSignIns(TestDatabase.get().sql(), clock);
        long looked = IntStream.range(0, 60)
                .parallel()
                .filter(_ -> failures.begin("guessed", "192.0.2.11").isZero())
                .count();
        assertThat(looked).isEqualTo(5);
    }

    @Test
    void whatWasDoneIsForgottenAfterItsTime() {
        var audit = new Audit(TestDatabase.get().sql(), clock);
        audit.tell("late", Audit.Deed.SIGNED_IN, "of the tests", "192.0.2.9");
        audit.forget(Duration.ofDays(365));
        assertThat(audit.latest(0, 1)).extracting(Audit.Audited::by).containsExactly("late");
        var next = new Audit(TestDatabase.get().sql(), Clock.offset(clock, Duration.ofDays(366)));
        next.forget(Duration.ofDays(365));
        assertThat(audit.latest(0, 1)).isEmpty();
    }

    @Test
    void titlesStandForNamesAndWhatIsNoNameStandsForItself() {
        people.add(said("titled"), Optional.empty(), false);
        var titles = people.titles(List.of("titled", "Odile Marsh"));
        assertThat(titles.apply("titled")).isEqualTo("Of the tests");
        assertThat(titles.apply("Odile Marsh")).isEqualTo("Odile Marsh");
    }
}
