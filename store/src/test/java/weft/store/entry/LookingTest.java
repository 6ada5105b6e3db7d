package weft.store.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Rules;
import weft.core.table.Constraint;
import weft.core.table.Faults;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.FormSentences;
import weft.store.form.FormSentences.Read;
import weft.store.form.Forms;
import weft.store.form.ReadyForm;
import weft.store.table.Tables;

/** Rules that are typed for a form, and the stored records that break them. */
@ExtendWith(TestDatabase.class)
class LookingTest {

    private static final int MANY = 1_200;
    private static final Duration LONG = Duration.ofMinutes(1);

    private final Database database = TestDatabase.get();
    private final Tables tables = new Tables(database.sql());
    private final Forms forms = new Forms(database.sql());
    private final Definitions definitions = new Definitions(forms, tables, database.changes());
    private final FormSentences sentences = new FormSentences(definitions, tables, forms);
    private final Looking looking = Given.looking(definitions);

    private ReadyForm form(int rows) {
        var table = Given.table("after-last", "site text", "depth whole", "bank text");
        for (int n = 1; n <= rows; n++) {
            Given.saved(
                    table,
                    values("site", text("S" + n % 60), "depth", new Value.Whole(n), "bank", text("B" + n % 2)),
                    Optional.empty(),
                    "odile");
        }
        return definitions
                .published(forms.make(table, Conventions.DEFAULT).form().id())
                .orElseThrow();
    }

    private Declaration rule(ReadyForm form, String sentence) {
        return ((Read.Rule) sentences.read(sentence, form, sentences.terms(form))).rule();
    }

    private static Check holds(String formula) {
        return new Check("c", new Check.Holds(formula, "depth"), false, false, "");
    }

    private static List<Long> rows(List<Looking.Broken> broken) {
        return broken.stream().map(each -> each.record().row()).toList();
    }

    @Test
    void theDatabaseAndThePagesFindTheSame() {
        var form = form(MANY);
        var byDatabase = looking.look(form, rule(form, "depth is at most 20"), Optional.empty(), 0, LONG);
        var byPages = looking.look(form, holds("depth <= 20"), Optional.empty(), 0, LONG);
        for (var found : List.of(byDatabase, byPages)) {
            assertThat(found.looked()).isEqualTo(MANY);
            assertThat(found.broken()).isEqualTo(MANY - 20);
            assertThat(found.next()).isEmpty();
            assertThat(rows(found.examples()))
                    .isEqualTo(LongStream.rangeClosed(21, 20 + Looking.SHOWN)
                            .boxed()
                            .toList());
        }
        assertThat(byDatabase.examples().getFirst().said()).isEqualTo("Depth is 21, above 20.");
        var further = looking.look(form, rule(form, "depth is at most 20"), Optional.empty(), 70, LONG);
        assertThat(rows(further.examples()).getFirst()).isEqualTo(71);
    }

    /** As an entry of it would be held against the rule: a field that is not shown holds nothing, and is no gap. */
    @Test
    void whatTheFormsOtherRulesLetThroughIsNotCounted() {
        var form = form(180);
        var shown = new Derived("depth", Decides.SHOWN, "bank = \"B1\"");
        var rules = new Rules(List.of(), List.of(), List.of(shown), List.of(), List.of(), List.of(), List.of());
        forms.change(1, FormDocument.checked(form.form().ruled(rules)), "Bram");
        var ruled = definitions.workingCopy(form.form().id()).orElseThrow();
        var found = looking.look(ruled, rule(ruled, "depth is at most 20"), Optional.empty(), 0, LONG);
        assertThat(found.looked()).isEqualTo(180);
        assertThat(rows(found.examples()).subList(0, 3)).containsExactly(21L, 23L, 25L);
        assertThat(found.broken()).isEqualTo(80);
        database.sql()
                .execute("update records.\"%s\" set depth = null"
                        .formatted(form.table().definition().name()));
        found = looking.look(ruled, rule(ruled, "everything is filled"), Optional.empty(), 0, LONG);
        assertThat(found.broken()).isEqualTo(90);
    }

    @Test
    void aLookThatHasNoTimeGoesOnWhereItStoppedAndCountsEachRecordOnce() {
        var form = form(MANY);
        var rule = holds("depth > 700");
        var looks = new ArrayList<Looking.Looked>();
        var after = Optional.<String>empty();
        do {
            looks.add(looking.look(form, rule, after, 0, Duration.ZERO));
            after = looks.getLast().next();
        } while (after.isPresent());
        assertThat(looks).hasSizeGreaterThan(1);
        assertThat(looks.stream().mapToLong(Looking.Looked::looked).sum()).isEqualTo(MANY);
        assertThat(looks.stream().mapToLong(Looking.Looked::broken).sum()).isEqualTo(700);
    }

    /** A record is not its own double. */
    @Test
    void aRecordIsNotHeldAgainstItself() {
        var form = form(0);
        for (var site : List.of("Stepping stones", "Steping stones", "Heron pool", "Ferry ramp")) {
            Given.saved(form.table(), values("site", text(site)), Optional.empty(), "odile");
        }
        var found = looking.look(form, rule(form, "nearly no two alike in site, else ask"), Optional.empty(), 0, LONG);
        assertThat(rows(found.examples())).containsExactly(1L, 2L);
        assertThat(found.broken()).isEqualTo(2);
    }

    @Test
    void whatHoldsBetweenRecordsIsLookedForAndWhatCannotBeLookedWithIsRefused() {
        var form = form(180);
        var alike = new Between(new Constraint.Unique("", List.of("site", "bank"), ""));
        assertThat(looking.look(form, alike, Optional.empty(), 0, LONG).broken())
                .isEqualTo(180);
        for (var wrong : List.<Declaration>of(
                new Check("c", new Check.Range("gone", "1", "2"), false, false, ""),
                new Fill("f", "sites", List.of(), List.of(), Fill.None.STOP, Fill.Several.STOP, false))) {
            var refused =
                    catchThrowableOfType(Faults.class, () -> looking.look(form, wrong, Optional.empty(), 0, LONG));
            assertThat(refused).as(wrong.toString()).isNotNull();
        }
    }

    @Test
    void aSentenceIsARuleOrSaysWhereItIsUnclearAndARuleOnlyWhatIsWrongWithItself() {
        var form = form(0);
        var came = new TreeMap<String, String>();
        for (var line : List.of("depth is at most 20", "depth is at most nine", "depth glows", "depth = gone + 1")) {
            came.put(
                    line,
                    switch (sentences.read(line, form, sentences.terms(form))) {
                        case Read.Rule rule -> rule.fault().orElse("can be followed");
                        case Read.NotClear unclear -> unclear.at() + " " + unclear.why();
                    });
        }
        assertThat(came.get("depth is at most 20")).isEqualTo("can be followed");
        assertThat(came.get("depth is at most nine")).contains("nine");
        assertThat(came.get("depth glows")).startsWith("6 ");
        assertThat(came.get("depth = gone + 1")).isNotEqualTo("can be followed");
    }
}
