package weft.core.entry.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import weft.core.entry.Rows;
import weft.core.entry.draft.Draft.Around;
import weft.core.entry.draft.Finding.Code;
import weft.core.formula.Formula;
import weft.core.formula.Moment;
import weft.core.formula.Template;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Value;

class KnownTest {

    private static final Column DEPTH =
            Column.plain("depth", "Depth", ColumnType.WHOLE).once(List.of("deep"));
    private static final Table TABLE = new Table(
            "samples",
            "Samples",
            List.of(Column.plain("site", "Site", ColumnType.TEXT), DEPTH),
            Table.Placement.AFTER_LAST);
    private static final Moment MOMENT = new Moment(ZonedDateTime.of(2026, 8, 5, 14, 7, 0, 0, ZoneOffset.UTC));
    private static final Draft DRAFT = new Draft(
            Map.of(),
            OptionalLong.of(7),
            Map.of("site", new Value.Text("QB-03")),
            new Around("Saffi", Map.of("site", new Value.Text("QB-02")), Map.of(), Map.of("offer", "yes")));

    private static String words(Known known, String formula) {
        return known.answer(Formula.of(formula)).words();
    }

    @Test
    void aFormulaMayNameColumnsByEveryNameTheyHadAndWhatIsAround() {
        var known = Known.of(TABLE, DRAFT, new Rows(), MOMENT);
        assertThat(words(known, "site")).isEqualTo("QB-03");
        assertThat(words(known, "last.site + person")).isEqualTo("QB-02Saffi");
        assertThat(words(known, "answers.offer")).isEqualTo("yes");
        assertThat(words(known, "deep")).isEmpty();
        known.learn(DEPTH, new Value.Whole(3));
        assertThat(words(known, "deep + depth")).isEqualTo("6");
        assertThat(known.of("depth")).isEqualTo(new Value.Whole(3));
        assertThat(known.words(Template.of("{site} is {depth} deep"))).isEqualTo("QB-03 is 3 deep");
    }

    @Test
    void anEntryHasARowOnceItIsWritten() {
        assertThat(words(Known.of(TABLE, DRAFT, Map.of(), 0, new Rows(), MOMENT), "row"))
                .isEmpty();
        var written = Known.of(TABLE, DRAFT, Map.of("depth", new Value.Whole(2)), 12, new Rows(), MOMENT);
        assertThat(words(written, "row + depth")).isEqualTo("14");
        assertThat(written.of("site")).as("what is stored counts no more").isEqualTo(Value.EMPTY);
        assertThat(written.of("nothing")).isEqualTo(Value.EMPTY);
        assertThat(Known.AROUND).containsExactlyInAnyOrder("last", "person", "row", "answers", "_keyed");
    }

    @Test
    void findingsAreToldInTheOrderOfFieldsWithoutWhatWasAnsweredWithYes() {
        var ask = Finding.of("site", true, new Cause.Told(Code.RANGE, "Rare."), "rare");
        var offered = Finding.of("", true, new Cause.Question("Sure?"), "offer");
        var stop = Finding.stop("depth", new Cause.Missing("Depth", ColumnType.DECIMAL, Optional.empty()));
        var all = new Findings(List.of(stop, offered, ask));
        assertThat(all.inOrder(List.of("site", "depth")).all()).containsExactly(ask, stop, offered);
        assertThat(all.open(DRAFT).all()).containsExactly(stop, ask);
        assertThat(all.stop()).isTrue();
        assertThat(all.fields()).containsExactlyInAnyOrder("site", "depth", "");
        assertThat(new Findings(List.of(ask)).stop()).isFalse();
        assertThat(ask.message()).isEqualTo("Rare.");
        assertThat(offered.message()).isEqualTo("Sure?");
        assertThat(Findings.NONE.none()).isTrue();
    }
}
