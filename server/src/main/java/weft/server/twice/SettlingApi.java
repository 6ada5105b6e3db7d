package weft.server.twice;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.value.ColumnType;
import weft.core.value.Typed;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.server.record.RecordJson;
import weft.server.twice.SecondKeyingApi.BothJson;
import weft.store.door.Ways.Way;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.twice.Papers;
import weft.store.twice.Settling;
import weft.store.twice.Which;

/** Papers whose keyings differ, settled field by field by somebody who keyed neither. */
@RestController
class SettlingApi {

    private final Papers papers;
    private final Settling settling;
    private final Records records;
    private final TwicePapers called;

    SettlingApi(Papers papers, Settling settling, Records records, TwicePapers called) {
        this.papers = papers;
        this.settling = settling;
        this.records = records;
        this.called = called;
    }

    /** A field in which the keyings differ. */
    record FieldDiffers(String column, String label, BothJson both) {}

    /**
     * A paper to settle.
     *
     * @param record the record as it stands: what was keyed first
     * @param fields those that differ, in tab order
     * @param pictures the columns of the record that have a picture of the paper
     */
    record PaperDiffers(PaperJson paper, RecordJson record, List<FieldDiffers> fields, List<String> pictures) {}

    /**
     * The next paper to settle, if there is one.
     *
     * @param left how many there are, a thousand for so many or more
     */
    record NextToSettle(@Nullable PaperDiffers paper, int left) {}

    /** The next paper that whoever asks could settle, after that record. */
    @GetMapping("/api/doors/{door}/twice/settling")
    @Needs(value = May.CHANGE, with = May.SEE, twice = true)
    NextToSettle next(Way door, @RequestParam(required = false) @Nullable Long after) {
        return new NextToSettle(
                settling.toSettle(door, after == null ? OptionalLong.empty() : OptionalLong.of(after))
                        .map(paper -> json(door, paper))
                        .orElse(null),
                papers.waiting(door).settling());
    }

    private PaperDiffers json(Way door, Settling.Differing paper) {
        var shown = door.shown().plan();
        var fields = new ArrayList<FieldDiffers>();
        paper.fields()
                .forEach((column, both) ->
                        fields.add(new FieldDiffers(column, TwicePapers.label(door, column), BothJson.of(both))));
        var pictures = shown.columns().stream()
                .filter(column -> column.type() == ColumnType.PICTURE
                        && !paper.record().of(column.name()).isEmpty())
                .map(column -> column.name())
                .toList();
        return new PaperDiffers(
                called.json(door, new Papers.Paper(paper.record().id(), paper.paper(), paper.place())),
                RecordJson.of(door.of(paper.record())),
                fields,
                pictures);
    }

    /**
     * What holds in a field.
     *
     * @param typed what is typed, where neither holds
     */
    record HoldsJson(Which which, @Nullable String typed) {}

    /**
     * A paper as it is settled.
     *
     * @param choices by column, for each that differs
     * @param answers what is answered to what asks, by the code or the id of a check
     */
    record Settled(Map<String, HoldsJson> choices, @Nullable Map<String, String> answers) {}

    /** Settles a paper: the record takes what was chosen. If-Match says which version of it was seen. */
    @PostMapping("/api/doors/{door}/twice/{record}/settle")
    @Needs(value = May.CHANGE, with = May.SEE, twice = true)
    ResponseEntity<RecordJson> settle(Way door, @PathVariable long record, Seen seen, @RequestBody Settled asked) {
        var choices = new LinkedHashMap<String, Settling.Choice>();
        asked.choices().forEach((column, choice) -> choices.put(column, choice(choice)));
        settling.settle(door, record, seen.version(), choices, asked.answers() == null ? Map.of() : asked.answers());
        var now = records.find(SeenTable.all(door.saving().table()), record)
                .orElseThrow(() -> Problem.unknown("record " + record));
        return ResponseEntity.ok().eTag(Seen.etag(now.version())).body(RecordJson.of(door.of(now)));
    }

    private static Settling.Choice choice(HoldsJson asked) {
        return new Settling.Choice(asked.which(), new Typed.Keyed(asked.typed() == null ? "" : asked.typed()));
    }
}
