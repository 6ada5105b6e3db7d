package weft.server.find;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.find.Where;
import weft.core.table.Column;
import weft.core.twice.Standing;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.server.people.AuditTrail;
import weft.server.record.RecordJson;
import weft.server.record.RecordPage;
import weft.server.record.TotalJson;
import weft.store.door.Ways.Way;
import weft.store.find.Goal;
import weft.store.find.KeptFinds;
import weft.store.find.KeptFinds.NamedFind;
import weft.store.find.Placed;
import weft.store.find.Views;
import weft.store.form.ShownForm;
import weft.store.people.Audit.Deed;
import weft.store.twice.Papers;

/** The records in view: found, listed, stepped through, exported. */
@RestController
class FindApi {

    private final Views views;
    private final KeptFinds finds;
    private final Papers papers;
    private final AuditTrail told;
    private final Clock clock;

    FindApi(Views views, KeptFinds finds, Papers papers, AuditTrail told, Clock clock) {
        this.views = views;
        this.finds = finds;
        this.papers = papers;
        this.told = told;
        this.clock = clock;
    }

    /** A criterion as it was understood, or why it was not. */
    record CriterionJson(@Nullable String words, @Nullable String message) {}

    /** A find read back: each criterion, all of it in words, the order in words, and how many match. */
    record FindJson(Map<String, CriterionJson> criteria, String words, String order, TotalJson total) {}

    /**
     * Where one stands.
     *
     * @param record null when there is none
     * @param cursor from where next and previous lead on
     * @param position the record's number, or null where so many are not numbered
     * @param words the position in words: "14 of 212"
     */
    record PlaceJson(
            @Nullable RecordJson record,
            String cursor,
            @Nullable Long position,
            TotalJson total,
            String words,
            boolean first,
            boolean last) {

        /** The same, with how its record stands. */
        PlaceJson standing(Map<Long, Standing> byRecord) {
            return new PlaceJson(
                    record == null ? null : record.standing(byRecord), cursor, position, total, words, first, last);
        }

        static PlaceJson of(Way door, Placed placed) {
            var position = placed.position();
            return new PlaceJson(
                    RecordJson.of(door.of(placed.record())),
                    placed.cursor().wire(),
                    position.number().isPresent() ? position.number().getAsLong() : null,
                    TotalJson.of(position.total()),
                    position.words(door.shown().form().conventions()),
                    placed.first(),
                    placed.last());
        }
    }

    @GetMapping("/api/doors/{door}/records")
    @Needs(May.SEE)
    RecordPage page(
            Way door,
            FindRequest asked,
            @RequestParam(required = false) @Nullable String after,
            @RequestParam(required = false) @Nullable Long from,
            @RequestParam(defaultValue = "50") int limit) {
        var form = door.shown();
        RecordPage.check(limit);
        var view = asked.view();
        var page = from == null
                ? views.page(form.seen(), view, RecordPage.after(after), limit)
                : views.pageFrom(form.seen(), view, from, limit);
        var answer = RecordPage.of(page, door::of);
        return papers.twice(door.pass().door().form())
                ? answer.standing(papers.standing(form.seen(), page.records()))
                : answer;
    }

    @GetMapping("/api/doors/{door}/find")
    @Needs(May.SEE)
    FindJson find(Way door, FindRequest asked) {
        var form = door.shown();
        var criteria = new LinkedHashMap<String, CriterionJson>();
        asked.conditions()
                .forEach(condition -> criteria.put(
                        condition.column().name(),
                        new CriterionJson(condition.criterion().words(), null)));
        asked.refused().forEach((column, message) -> criteria.put(column, new CriterionJson(null, message)));
        return new FindJson(
                criteria,
                asked.understood().words(),
                asked.sort().words(form.seen().definition(), form::label),
                TotalJson.of(views.total(form.seen(), asked.understood())));
    }

    /**
     * The record at a place among those in view.
     *
     * @param to {@code first}, {@code last}, {@code next}, {@code previous}, a number, {@code row:12} or
     *     {@code record:34}
     * @param cursor where next and previous lead on from
     */
    @GetMapping("/api/doors/{door}/place")
    @Needs(May.SEE)
    PlaceJson place(
            Way door,
            @RequestParam String to,
            @RequestParam(required = false) @Nullable String cursor,
            FindRequest asked) {
        var form = door.shown();
        var view = asked.view();
        var goal = Goal.read(to, Optional.ofNullable(cursor))
                .orElseThrow(() -> Problem.malformed("“" + to + "” is no place among records."));
        return views.place(form.seen(), view, goal)
                .map(placed -> place(door, placed))
                .orElseGet(() -> {
                    var total = views.total(form.seen(), view);
                    return new PlaceJson(
                            null,
                            "",
                            null,
                            TotalJson.of(total),
                            "none of " + total.words(form.form().conventions()),
                            true,
                            true);
                });
    }

    private PlaceJson place(Way door, Placed placed) {
        var place = PlaceJson.of(door, placed);
        return place.record() != null && papers.twice(door.pass().door().form())
                ? place.standing(papers.standing(door.shown().seen(), List.of(placed.record())))
                : place;
    }

    /** Everything in view, as {@code csv}, {@code json} or {@code ods}, sent as it is read. */
    @GetMapping("/api/doors/{door}/export")
    @Needs(May.EXPORT)
    void export(
            Way door, @RequestParam(defaultValue = "csv") String as, FindRequest asked, HttpServletResponse response)
            throws IOException {
        var form = door.shown();
        var view = asked.view();
        response.setContentType(
                switch (as) {
                    case "csv" -> "text/csv;charset=UTF-8";
                    case "json" -> "application/json";
                    case "ods" -> "application/vnd.oasis.opendocument.spreadsheet";
                    default -> throw Problem.malformed("Records are exported as csv, json or ods.");
                });
        response.setHeader(
                "Content-Disposition", "attachment; filename=\"" + form.form().id() + "." + as + "\"");
        var out = response.getOutputStream();
        boolean twice = papers.twice(door.pass().door().form());
        var columns = Stream.concat(form.plan().columns().stream(), twice ? Stream.of(Standing.COLUMN) : Stream.empty())
                .toList();
        var export = switch (as) {
            case "csv" -> Export.csv(out, form, columns);
            case "json" -> Export.json(out, columns);
            default -> new OdsExport(out, form, columns);
        };
        var whole = twice ? new KeyedExport(export, rows -> papers.standing(form.seen(), rows)) : export;
        told.of(
                Deed.EXPORT_TAKEN,
                door.pass().door().id() + " as " + as + (view.words().isEmpty() ? "" : ", by a find"));
        views.each(form.seen(), view, total -> response.setHeader("Weft-Total", Long.toString(total)), whole::write);
        // Only a whole one is closed; whatever breaks it off leaves it open.
        whole.close();
    }

    /**
     * A find that is kept.
     *
     * @param where its criteria, each {@code column:criterion}
     * @param any what is asked of any field, or empty
     * @param sort its order, as requests say one
     */
    record KeptFind(String name, List<String> where, String any, String sort) {}

    @GetMapping("/api/doors/{door}/finds")
    @Needs(May.SEE)
    List<KeptFind> finds(Way door) {
        var form = door.shown();
        return finds.of(door.pass().door().id()).stream()
                .filter(kept -> known(kept, form))
                .map(kept -> new KeptFind(
                        kept.name(),
                        kept.where().stream()
                                .map(where -> Where.of(where)
                                        .following(name -> form.seen()
                                                .definition()
                                                .column(name)
                                                .map(Column::name)
                                                .orElse(name))
                                        .toString())
                                .toList(),
                        kept.any(),
                        kept.sort()))
                .toList();
    }

    /** One that asks of a column that is not shown any more is not known here. */
    private static boolean known(NamedFind kept, ShownForm form) {
        return kept.where().stream()
                .map(where -> Where.of(where).column())
                .allMatch(column -> FindRequest.column(form, column).isPresent());
    }

    /** A find to be kept, under the name in the address. */
    record FindToKeep(
            @Nullable List<String> where,
            @Nullable String any,
            @Nullable String sort) {}

    @PutMapping("/api/doors/{door}/finds/{name}")
    @Needs(May.SEE)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void keep(Way door, @PathVariable String name, @RequestBody FindToKeep find) {
        var form = door.shown();
        if (name.isBlank() || name.length() > 80) {
            throw Problem.malformed("A find's name has from 1 to 80 characters.");
        }
        var where = find.where() == null ? List.<String>of() : find.where();
        var asked = FindRequest.of(form, where, find.any(), find.sort(), clock);
        asked.view();
        finds.keep(
                form.form().id(),
                door.pass().door().id(),
                new NamedFind(
                        name.strip(),
                        where,
                        find.any() == null ? "" : find.any(),
                        asked.sort().wire()),
                door.pass().by());
    }

    @DeleteMapping("/api/doors/{door}/finds/{name}")
    @Needs(May.SEE)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void forget(Way door, @PathVariable String name) {
        finds.forget(door.pass().door().id(), name);
    }
}
