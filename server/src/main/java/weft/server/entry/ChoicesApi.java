package weft.server.entry;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.door.Person;
import weft.core.entry.plan.EntryPlan;
import weft.core.rule.Choices;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.entry.Saving;
import weft.store.entry.SavingSheets;
import weft.store.entry.Sent;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.Lists;

/** Choice lists that come from tables, and records that can be linked to, narrowed while one types. */
@RestController
class ChoicesApi {

    private static final int MOST = 30;

    private final Definitions definitions;
    private final Drafts drafts;
    private final Saving saving;
    private final SavingSheets sheets;
    private final Lists lists;

    ChoicesApi(Definitions definitions, Drafts drafts, Saving saving, SavingSheets sheets, Lists lists) {
        this.definitions = definitions;
        this.drafts = drafts;
        this.saving = saving;
        this.sheets = sheets;
        this.lists = lists;
    }

    /** What is typed so far into the field, and the rest of the entry. */
    record ChoicesAsked(@Nullable String typed, DraftJson draft) {}

    /**
     * One of a list.
     *
     * @param value what is stored when it is chosen
     * @param shown what is shown beside it, or empty
     * @param id of a link: the identity of the record
     */
    record ChoiceJson(
            String value,
            String shown,

            @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable
            Long id) {}

    @PostMapping("/api/doors/{door}/choices/{column}")
    @Needs({May.ADD, May.CHANGE})
    List<ChoiceJson> choices(Way way, @PathVariable String column, @RequestBody ChoicesAsked asked) {
        if (way.shown().plan().takes(column).isEmpty()) {
            throw none(column);
        }
        return listed(drafts.atDesk(way, asked.draft()), column, asked);
    }

    @PostMapping("/api/forms/{form}/bench/choices/{column}")
    List<ChoiceJson> choicesAtBench(
            @Copy ReadyForm form, @PathVariable String column, Person person, @RequestBody ChoicesAsked asked) {
        return listed(drafts.atBench(form, asked.draft(), person), column, asked);
    }

    private static Problem none(String column) {
        return Problem.unknown("choice list for “" + column + "” on this form");
    }

    @PostMapping("/api/doors/{door}/lines/{lines}/choices/{column}")
    @Needs({May.ADD, May.CHANGE})
    List<ChoiceJson> choicesOfLines(
            Way way, @PathVariable String lines, @PathVariable String column, @RequestBody ChoicesAsked asked) {
        var plan = way.shown().plan().linesOf(lines).orElseThrow(() -> Problem.unknown("lines “" + lines + "”"));
        // To which record a line belongs is not chosen, and so no records are offered for it.
        if (plan.plan().takes(column).filter(taken -> !taken.equals(plan.by())).isEmpty()) {
            throw none(column);
        }
        var draft = asked.draft()
                .of(null)
                .draft(plan.plan(), Map.of(), Map.of(), way.pass().called());
        return listed(
                plan.plan(), column, asked, () -> sheets.assessLine(plan, draft).values());
    }

    private List<ChoiceJson> listed(Sent sent, String column, ChoicesAsked asked) {
        return listed(
                sent.form().plan(),
                column,
                asked,
                () -> saving.assess(sent.form(), sent.draft()).values());
    }

    private List<ChoiceJson> listed(
            EntryPlan plan, String column, ChoicesAsked asked, Supplier<Map<String, Value>> assessed) {
        var typed = asked.typed() == null ? "" : asked.typed();
        var link = plan.takes(column).flatMap(Column::link);
        var list = plan.form().rules().listOf(column);
        var name = link.map(Link::to).or(() -> list.map(Choices::table)).orElseThrow(() -> none(column));
        var table = definitions.table(name).orElseThrow(() -> Problem.unknown("table " + name));
        var values = list.filter(each -> !each.when().isEmpty()).isEmpty() ? Map.<String, Value>of() : assessed.get();
        var choices = link.map(to -> lists.linkable(
                        to, table, list.filter(each -> each.table().equals(to.to())), values, typed, MOST))
                .orElseGet(() -> lists.choices(table, list.orElseThrow(), values, typed, MOST));
        return choices.stream()
                .map(choice -> new ChoiceJson(
                        choice.value(),
                        choice.shown(),
                        choice.record().isPresent() ? choice.record().getAsLong() : null))
                .toList();
    }
}
