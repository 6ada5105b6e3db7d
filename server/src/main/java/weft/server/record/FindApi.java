package weft.server.record;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.beans.propertyeditors.StringArrayPropertyEditor;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.WebDataBinder;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.InitBinder;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.find.Total;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.store.find.Goal;
import weft.store.find.KeptFinds;
import weft.store.find.KeptFinds.Kept;
import weft.store.find.Placed;
import weft.store.find.Views;
import weft.store.record.StoredRecord;

/** The records in view: found, listed, stepped through, exported. */
@RestController
class FindApi {

    private final PreparedForms forms;
    private final Views views;
    private final KeptFinds finds;
    private final Clock clock;

    FindApi(PreparedForms forms, Views views, KeptFinds finds, Clock clock) {
        this.forms = forms;
        this.views = views;
        this.finds = finds;
        this.clock = clock;
    }

    /** A comma in a criterion is part of it and does not cut it in two. */
    @InitBinder
    void whole(WebDataBinder binder) {
        binder.registerCustomEditor(String[].class, new StringArrayPropertyEditor(null));
    }

    private static List<String> list(String[] where) {
        return where == null ? List.of() : List.of(where);
    }

    /** A criterion as it was understood, or why it was not. */
    record CriterionJson(
            @Schema(types = {"string", "null"}) String words,
            @Schema(types = {"string", "null"}) String message) {}

    /** A find read back: each criterion, all of it in words, the order in words, and how many match. */
    record FindJson(Map<String, CriterionJson> criteria, String words, String order, Total total) {}

    /**
     * Where one stands.
     *
     * @param record null when there is none
     * @param cursor from where next and previous lead on
     * @param position the record's number, or null where so many are not numbered
     * @param words the position in words: "14 of 212"
     */
    record PlaceJson(
            StoredRecord record,
            String cursor,
            @Schema(types = {"integer", "null"}) Long position,
            Total total,
            String words,
            boolean first,
            boolean last) {

        static PlaceJson of(Placed placed) {
            var position = placed.position();
            return new PlaceJson(
                    placed.record(),
                    placed.cursor().wire(),
                    position.number().isPresent() ? position.number().getAsLong() : null,
                    position.total(),
                    position.words(),
                    placed.first(),
                    placed.last());
        }
    }

    @GetMapping("/api/forms/{form}/records")
    RecordPage page(
            @PathVariable String form,
            @RequestParam(required = false) String[] where,
            @RequestParam(required = false) String any,
            @RequestParam(required = false) String sort,
            @RequestParam(required = false) String after,
            @RequestParam(required = false) Long from,
            @RequestParam(defaultValue = "50") int limit) {
        RecordPage.check(limit);
        var prepared = forms.published(form);
        var view = Asked.of(prepared, list(where), any, sort, clock).view();
        return RecordPage.of(
                from == null
                        ? views.page(prepared.table(), view, Optional.ofNullable(after), limit)
                        : views.pageFrom(prepared.table(), view, from, limit));
    }

    @GetMapping("/api/forms/{form}/find")
    FindJson find(
            @PathVariable String form,
            @RequestParam(required = false) String[] where,
            @RequestParam(required = false) String any,
            @RequestParam(required = false) String sort) {
        var prepared = forms.published(form);
        var asked = Asked.of(prepared, list(where), any, sort, clock);
        var criteria = new LinkedHashMap<String, CriterionJson>();
        asked.conditions()
                .forEach(condition -> criteria.put(
                        condition.column().name(),
                        new CriterionJson(condition.criterion().words(), null)));
        asked.refused().forEach((column, message) -> criteria.put(column, new CriterionJson(null, message)));
        return new FindJson(
                criteria,
                asked.understood().words(),
                asked.sort().words(prepared.table().definition(), column -> Asked.label(prepared, column)),
                views.total(prepared.table(), asked.understood()));
    }

    /**
     * The record at a place among those in view.
     *
     * @param to {@code first}, {@code last}, {@code next}, {@code previous}, a number, {@code row:12} or
     *     {@code record:34}
     * @param cursor where next and previous lead on from
     */
    @GetMapping("/api/forms/{form}/place")
    PlaceJson place(
            @PathVariable String form,
            @RequestParam String to,
            @RequestParam(required = false) String cursor,
            @RequestParam(required = false) String[] where,
            @RequestParam(required = false) String any,
            @RequestParam(required = false) String sort) {
        var prepared = forms.published(form);
        var view = Asked.of(prepared, list(where), any, sort, clock).view();
        var goal = Goal.read(to, Optional.ofNullable(cursor))
                .orElseThrow(() -> Problem.malformed("“" + to + "” is no place among records."));
        return views.place(prepared.table(), view, goal).map(PlaceJson::of).orElseGet(() -> {
            var total = views.total(prepared.table(), view);
            return new PlaceJson(null, "", null, total, "none of " + total.words(), true, true);
        });
    }

    /** Everything in view, as {@code csv} or {@code json}, sent as it is read. */
    @GetMapping("/api/forms/{form}/export")
    void export(
            @PathVariable String form,
            @RequestParam(defaultValue = "csv") String as,
            @RequestParam(required = false) String[] where,
            @RequestParam(required = false) String any,
            @RequestParam(required = false) String sort,
            HttpServletResponse response)
            throws IOException {
        var prepared = forms.published(form);
        var view = Asked.of(prepared, list(where), any, sort, clock).view();
        if (!as.equals("csv") && !as.equals("json")) {
            throw Problem.malformed("Records are exported as csv or json.");
        }
        response.setContentType(as.equals("csv") ? "text/csv;charset=UTF-8" : "application/json");
        response.setHeader("Content-Disposition", "attachment; filename=\"" + form + "." + as + "\"");
        response.setHeader(
                "Weft-Total", Long.toString(views.total(prepared.table(), view).count()));
        try (var export = as.equals("csv")
                ? Export.csv(response.getOutputStream(), prepared)
                : Export.json(response.getOutputStream(), prepared)) {
            views.each(prepared.table(), view, export::write);
        }
    }

    @GetMapping("/api/forms/{form}/finds")
    List<Kept> finds(@PathVariable String form) {
        var table = forms.published(form).table().definition();
        return finds.of(form).stream()
                .map(kept -> new Kept(
                        kept.name(),
                        kept.where().stream()
                                .map(where -> Asked.renamed(where, table))
                                .toList(),
                        kept.any(),
                        kept.sort()))
                .toList();
    }

    /** A find to be kept, under the name in the address. */
    record FindToKeep(List<String> where, String any, String sort) {}

    @PutMapping("/api/forms/{form}/finds/{name}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void keep(
            @PathVariable String form,
            @PathVariable String name,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody FindToKeep find) {
        var prepared = forms.published(form);
        if (name.isBlank() || name.length() > 80) {
            throw Problem.malformed("A find's name has from 1 to 80 characters.");
        }
        var where = find.where() == null ? List.<String>of() : find.where();
        var asked = Asked.of(prepared, where, find.any(), find.sort(), clock);
        asked.view();
        finds.keep(
                form,
                new Kept(
                        name.strip(),
                        where,
                        find.any() == null ? "" : find.any(),
                        asked.sort().wire()),
                Who.of(person));
    }

    @DeleteMapping("/api/forms/{form}/finds/{name}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void forget(@PathVariable String form, @PathVariable String name) {
        finds.forget(form, name);
    }
}
