package weft.server.day;

import java.time.Clock;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import weft.server.record.TotalJson;
import weft.store.day.Days;
import weft.store.message.Outbox;
import weft.store.people.People;

/** Puts what the day brought into the outbox each morning, for those who want it: once, whatever number of servers there are. */
@Component
public class MorningMail {

    private final DayTold told;
    private final Days days;
    private final People people;
    private final Outbox outbox;
    private final LocalTime from;
    private final Clock clock;

    MorningMail(
            DayTold told,
            Days days,
            People people,
            Outbox outbox,
            @Value("${weft.day.mail}") String from,
            Clock clock) {
        this.told = told;
        this.days = days;
        this.people = people;
        this.outbox = outbox;
        this.from = LocalTime.parse(from);
        this.clock = clock;
    }

    @Scheduled(initialDelayString = "PT30S", fixedDelayString = "PT1M")
    void whenItIsMorning() {
        if (!LocalTime.now(clock).isBefore(from)) {
            write(LocalDate.now(clock));
        }
    }

    /** Writes to everybody who wants it and has not had it that day. */
    public void write(LocalDate day) {
        for (var name : days.toMail(day)) {
            people.named(name)
                    .filter(kept -> !kept.stopped() && kept.email().isPresent())
                    .ifPresent(kept -> {
                        var told = this.told.of(kept.person());
                        outbox.write(kept.email().orElseThrow(), subject(told), text(told), name);
                    });
        }
    }

    private static String subject(DayJson day) {
        long came = day.doors().stream().mapToLong(door -> door.came().count()).sum();
        boolean exact = day.doors().stream().allMatch(door -> door.came().exact());
        int waits = day.doors().stream()
                .mapToInt(door -> door.keying() + door.settling())
                .sum();
        return "The day: %s came in%s"
                .formatted(words(new TotalJson(came, exact)), waits == 0 ? "" : ", %,d wait".formatted(waits));
    }

    private static String text(DayJson day) {
        var lines = new ArrayList<String>();
        lines.add("Since " + day.since().replace('T', ' ') + ":");
        if (day.doors().isEmpty()) {
            lines.add("Nothing came in, and nothing waits for you.");
        }
        for (var door : day.doors()) {
            lines.add("");
            lines.add(door.title());
            lines.addAll(said(door));
        }
        return String.join("\n", lines) + "\n";
    }

    private static List<String> said(DayJson.DoorsDay door) {
        var said = new ArrayList<String>();
        if (door.came().count() > 0) {
            said.add("  %s came in".formatted(words(door.came())));
        }
        by(said, "changed", door.changed());
        by(said, "removed", door.removed());
        if (door.keying() > 0) {
            said.add("  %,d wait for their second keying".formatted(door.keying()));
        }
        if (door.settling() > 0) {
            said.add("  %,d are to be settled".formatted(door.settling()));
        }
        door.finds().stream()
                .filter(find -> find.there().count() > 0)
                .forEach(find -> said.add("  %s: %s".formatted(find.name(), words(find.there()))));
        return said;
    }

    private static void by(List<String> said, String what, List<DayJson.ByWhom> whom) {
        if (!whom.isEmpty()) {
            said.add("  " + what + ": "
                    + whom.stream()
                            .map(each -> "%,d by %s".formatted(each.times(), each.title()))
                            .collect(Collectors.joining(", ")));
        }
    }

    private static String words(TotalJson total) {
        return (total.exact() ? "%,d" : "about %,d").formatted(total.count());
    }
}
