package weft.server.twice;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import weft.core.door.May;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.value.NormalText;
import weft.core.value.Value;
import weft.store.door.Ways.Way;
import weft.store.people.People;
import weft.store.twice.Papers.Paper;
import weft.store.twice.Pile;

/** What papers are called, and who may have them in hand. */
@Component
class TwicePapers {

    private final People people;
    private final Clock clock;

    TwicePapers(People people, Clock clock) {
        this.people = people;
        this.clock = clock;
    }

    static boolean maySettle(Way way) {
        return way.pass().may(May.SEE) && way.pass().may(May.CHANGE);
    }

    PaperJson json(Way way, Paper paper) {
        return new PaperJson(paper.record(), paper.paper(), words(way, paper.paper(), paper.place()));
    }

    /** What a paper is recognised by: “Number S-2026-014”, or “Saffi Keane’s 14th of Wed 25 Nov 2026”. */
    String words(Way way, Map<String, Value> values, Optional<Pile.Paper> place) {
        return place.map(pile -> people.named(pile.by())
                                .map(kept -> kept.person().title())
                                .orElse(pile.by())
                        + ", " + new Value.Day(pile.day()).spoken() + ", paper " + pile.number())
                .orElseGet(() -> values.entrySet().stream()
                        .map(each -> label(way, each.getKey()) + " "
                                + (each.getValue().isEmpty()
                                        ? "empty"
                                        : each.getValue().spoken()))
                        .collect(Collectors.joining(", ")));
    }

    static String label(Way way, String column) {
        return way.saving()
                .table()
                .definition()
                .column(column)
                .map(way.saving()::label)
                .orElse(column);
    }

    /**
     * What is typed to find a paper by, as it is asked of records.
     *
     * @throws Faults when it cannot be read, or is of no column by which papers are recognised
     */
    Map<Column, Criterion> asked(Way way, Map<String, String> typed) {
        var reader = new CriterionReader(way.saving().form().conventions(), LocalDateTime.now(clock));
        var asked = new LinkedHashMap<Column, Criterion>();
        typed.forEach((name, given) -> {
            var column = way.saving()
                    .table()
                    .definition()
                    .column(name)
                    .filter(each ->
                            way.pass().door().twice().orElseThrow().paper().contains(each.name()))
                    .orElseThrow(() -> new Faults(name, "Papers are not recognised by “" + name + "” at this door."));
            var text = NormalText.of(given);
            if (text.isEmpty()) {
                return;
            }
            if (column.type().isText() || column.link().isPresent()) {
                asked.put(column, new Criterion.Like(List.of(text), true, true));
                return;
            }
            switch (reader.read(column, text)) {
                case Criterion.Read(var criterion) -> asked.put(column, criterion);
                case Criterion.Refused(var message) -> throw new Faults(name, message);
            }
        });
        return asked;
    }
}
