package weft.server.record;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import weft.core.entry.Trace;
import weft.core.value.Value;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.server.form.PreparedForms.Prepared;
import weft.store.record.Lists;

/** Choice lists that come from tables, narrowed while one types. */
@RestController
class ChoicesApi {

    private static final int MOST = 30;

    private final PreparedForms forms;
    private final Saving saving;
    private final Lists lists;

    ChoicesApi(PreparedForms forms, Saving saving, Lists lists) {
        this.forms = forms;
        this.saving = saving;
        this.lists = lists;
    }

    /** What is typed so far into the field, and the rest of the entry. */
    record Asked(String typed, DraftJson draft) {}

    @PostMapping("/api/forms/{form}/choices/{column}")
    List<Lists.Choice> choices(
            @PathVariable String form,
            @PathVariable String column,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody Asked asked) {
        return listed(forms.published(form, Optional.ofNullable(asked.draft().version())), column, asked, person);
    }

    @PostMapping("/api/forms/{form}/bench/choices/{column}")
    List<Lists.Choice> choicesAtBench(
            @PathVariable String form,
            @PathVariable String column,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody Asked asked) {
        return listed(forms.workingCopy(form), column, asked, person);
    }

    private List<Lists.Choice> listed(Prepared prepared, String column, Asked asked, String person) {
        var list = prepared.form()
                .rules()
                .listOf(column)
                .orElseThrow(() -> Problem.unknown("choice list for “" + column + "” on this form"));
        var table = forms.find(list.table()).orElseThrow(() -> Problem.unknown("table " + list.table()));
        var values = list.when().isEmpty()
                ? Map.<String, Value>of()
                : saving.assess(
                                prepared,
                                saving.draft(asked.draft().threaded(prepared).sent(prepared, saving, person)),
                                Trace.none())
                        .values();
        return lists.choices(table, list, values, asked.typed() == null ? "" : asked.typed(), MOST);
    }
}
