package weft.server.bench;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Shown;
import weft.core.rule.Check;
import weft.core.rule.Check.For;
import weft.core.rule.Declaration;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.core.table.Column;
import weft.core.usual.Grouping;
import weft.core.usual.Grouping.Part;
import weft.server.entry.FindingJson;
import weft.server.http.Problem;
import weft.server.record.RecordJson;
import weft.store.table.StoredTable;
import weft.store.usual.UnusualLooks;
import weft.store.usual.UnusualLooks.After;
import weft.store.usual.UnusualLooks.Odd;

/** What is unusual among all records of a table, without any rule. */
@RestController
class UnusualApi {

    private final UnusualLooks looks;

    UnusualApi(UnusualLooks looks) {
        this.looks = looks;
    }

    /** The columns whose values are held against each other, and what can part the records. */
    record LookableJson(List<String> columns, List<PartJson> parts) {}

    /** What of a column parts the records. */
    record PartJson(String column, For.Of of) {}

    /** A record that is not as usual, how far beyond the end of what is usual it is, which is 1, and what is said of it. */
    record OddJson(RecordJson record, double beyond, FindingJson finding) {
        static OddJson of(Odd odd) {
            return new OddJson(
                    RecordJson.of(Shown.whole(odd.record())), odd.beyond(), FindingJson.whole(odd.finding()));
        }
    }

    /**
     * What was found, the worst first.
     *
     * @param many how many records are not as usual; by a part, without those that are not so without it
     * @param often whether these are so many that it says nothing; none are shown then
     * @param more whether others follow
     * @param rule the check that asks about such records
     * @param sentence the same in words
     */
    record UnusualJson(
            long many, boolean often, List<OddJson> records, boolean more, Declaration rule, String sentence) {}

    @GetMapping("/api/tables/{table}/unusual")
    LookableJson lookable(StoredTable table) {
        var lookable = looks.lookable(table);
        return new LookableJson(
                lookable.columns().stream().map(Column::name).toList(),
                lookable.parts().stream()
                        .map(part -> new PartJson(part.column().name(), part.of()))
                        .toList());
    }

    /**
     * Looks at all records by one column.
     *
     * @param by the column that parts them, if any
     * @param of what of it does
     * @param beyond with {@code row}, the record after which a page begins
     */
    @GetMapping("/api/tables/{table}/unusual/{column}")
    UnusualJson look(
            StoredTable table,
            @PathVariable String column,
            @RequestParam(required = false) @Nullable String by,
            @RequestParam(defaultValue = "value") For.Of of,
            @RequestParam(required = false) @Nullable Double beyond,
            @RequestParam(required = false) @Nullable Long row,
            @RequestParam(defaultValue = "10") int limit) {
        if (limit < 1 || limit > UnusualLooks.MOST) {
            throw Problem.malformed("A page has from 1 to " + UnusualLooks.MOST + " records.");
        }
        var parts = by == null ? List.<Part>of() : List.of(new Part(column(table, by), of));
        var grouping = new Grouping(column(table, column), parts, false);
        grouping.wrong().ifPresent(why -> {
            throw Problem.refused(why);
        });
        var after = beyond == null || row == null ? Optional.<After>empty() : Optional.of(new After(beyond, row));
        var found = looks.look(table, grouping, after, limit);
        var rule = new Check("", grouping.rule(), true, false, "");
        return new UnusualJson(
                found.many(),
                found.often(),
                found.shown().stream().map(OddJson::of).toList(),
                found.more(),
                rule,
                new Sentences(Terms.of(table.definition())).of(rule).text());
    }

    private static Column column(StoredTable table, String name) {
        return table.definition()
                .column(name)
                .orElseThrow(() -> Problem.refused("“%s” is no column of %s."
                        .formatted(name, table.definition().title())));
    }
}
