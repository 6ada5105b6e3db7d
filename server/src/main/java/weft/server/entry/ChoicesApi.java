package weft.server.entry;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.door.Person;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.entry.Saving;
import weft.store.entry.Sent;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.Lists;

/** Choice lists that come from tables, narrowed while one types. */
@RestController
class ChoicesApi {

    private static final int MOST = 30;

    private final Definitions definitions;
    private final Drafts drafts;
    private final Saving saving;
    private final Lists lists;

    ChoicesApi(Definitions definitions, Drafts drafts, Saving saving, Lists lists) {
        this.definitions = definitions;
        this.drafts = drafts;
        this.saving = saving;
        this.lists = lists;
    }

    /** What is typed so far into the field, and the rest of the entry. */
    record Asked(@Nullable String typed, DraftJson draft) {}

    /**
     * One of a list.
     *
     * @param value what is stored when it is chosen
     * @param shown what is shown beside it, or empty
     */
    record ChoiceJson(String value, String shown) {}

    @PostMapping("/api/doors/{door}/choices/{column}")
    @Needs({May.ADD, May.CHANGE})
    List<ChoiceJson> choices(Way door, @PathVariable String column, @RequestBody Asked asked) {
        var way = drafts.begunOn(door, asked.draft());
        if (way.shown().plan().takes(column).isEmpty()) {
            throw none(column);
        }
        return listed(drafts.atDesk(way, asked.draft()), column, asked);
    }

    @PostMapping("/api/forms/{form}/bench/choices/{column}")
    List<ChoiceJson> choicesAtBench(
            @Copy ReadyForm form, @PathVariable String column, Person person, @RequestBody Asked asked) {
        return listed(drafts.atBench(form, asked.draft(), person), column, asked);
    }

    private static Problem none(String column) {
        return Problem.unknown("choice list for “" + column + "” on this form");
    }

    private List<ChoiceJson> listed(Sent sent, String column, Asked asked) {
        var list = sent.form().form().rules().listOf(column).orElseThrow(() -> none(column));
        var table = definitions.table(list.table()).orElseThrow(() -> Problem.unknown("table " + list.table()));
        var values = list.when().isEmpty()
                ? Map.<String, Value>of()
                : saving.assess(sent.form(), sent.draft()).values();
        return lists.choices(table, list, values, asked.typed() == null ? "" : asked.typed(), MOST).stream()
                .map(choice -> new ChoiceJson(choice.value(), choice.shown()))
                .toList();
    }
}
