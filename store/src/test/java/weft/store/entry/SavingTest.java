package weft.store.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.door.Door;
import weft.core.door.May;
import weft.core.door.Pass;
import weft.core.door.Person;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Trace.Stage;
import weft.core.entry.step.StepRun.Then;
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.rule.Command;
import weft.core.rule.Practice;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Reply;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.Forms;
import weft.store.form.ReadyForm;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.record.Stale;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** The one flow of an entry, with neither JSON nor HTTP about it. */
@ExtendWith(TestDatabase.class)
class SavingTest {

    private final Database database = TestDatabase.get();
    private final Tables tables = new Tables(database.sql());
    private final Forms forms = new Forms(database.sql());
    private final Records records = new Records(database.sql());
    private final Definitions definitions = new Definitions(forms, tables, database.changes());
    private final Saving saving =
            new Saving(new EntryEngine(Clock.systemUTC()), records, Given.writer(), definitions, Clock.systemUTC());
    private final Rehearsing rehearsing = new Rehearsing(saving, records, definitions);

    private StoredTable samples;
    private StoredTable incidents;
    private ReadyForm form;

    @BeforeEach
    void given() {
        samples = Given.table("after-last", "site text required", "number text unique", "ph decimal", "bad yesno");
        incidents = Given.table("after-last", "place text required", "seen whole");
        var into = incidents.definition().name();
        form = published(new Rules(
                List.of(new Check("rare", new Check.Range("ph", "6", "9"), true, false, "")),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(new Steps(
                        Steps.SAVED,
                        List.of(
                                new Step(
                                        "bad",
                                        new Step.AddRow(
                                                into,
                                                List.of(new Setting("place", "site"), new Setting("seen", "row")))),
                                new Step("bad", new Step.Ask("offer", "Tell somebody?", Reply.NO)),
                                new Step("bad", new Step.Send("i@example.org", "Sample {row}", "At {site}."))))),
                List.of()));
    }

    private ReadyForm published(Rules rules) {
        var made = forms.make(samples, Conventions.DEFAULT).form();
        forms.change(1, FormDocument.checked(made.ruled(rules)), "Bram");
        forms.publish(made.id(), "Bram");
        return definitions.published(made.id()).orElseThrow();
    }

    private static Draft draft(
            Map<String, String> typed, OptionalLong record, Map<String, Value> stored, String... yes) {
        var keyed = new HashMap<String, Typed>();
        typed.forEach((column, text) -> keyed.put(column, new Typed.Keyed(text)));
        var answers = new HashMap<String, String>();
        for (var answer : yes) {
            var part = answer.split("=");
            answers.put(part[0], part[1]);
        }
        return new Draft(keyed, record, stored, new Draft.Around("Saffi", Map.of(), Map.of(), answers));
    }

    static final Pass ODILE = new Pass(
            Door.everything("samples"),
            Optional.of(new Person("odile", "Odile Marsh", Set.of())),
            Set.of(May.ADD, May.CHANGE));

    private Sent sent(Map<String, String> typed, String... answers) {
        return new Sent(form, draft(typed, OptionalLong.empty(), Map.of(), answers), 0, Optional.empty(), ODILE);
    }

    private Sent keyed(Map<String, String> typed, String key) {
        return new Sent(
                form,
                draft(typed, OptionalLong.empty(), Map.of()),
                0,
                Optional.of(new SaveKey(key, typed.toString().getBytes(java.nio.charset.StandardCharsets.UTF_8))),
                ODILE);
    }

    private Stopped stopped(Sent sent) {
        return catchThrowableOfType(Stopped.class, () -> saving.save(sent));
    }

    private long rows(StoredTable table) {
        return tables.rows(table);
    }

    @Test
    void anEntryGoesToTheNextFreeRowAsWhatItWasReadAs() {
        var saved = saving.save(sent(Map.of("site", " QB-03 ", "ph", "7.4")));
        assertThat(saved.record().row()).isEqualTo(1);
        assertThat(saved.record().of("site")).isEqualTo(text("QB-03"));
        assertThat(saved.then()).isEmpty();
        assertThat(records.find(SeenTable.all(samples), saved.record().id())
                        .orElseThrow()
                        .of("ph")
                        .plain())
                .isEqualTo("7.4");
    }

    @Test
    void aStopOrAnAskWritesNothingAndSaysWhatIsInTheWay() {
        assertThat(stopped(sent(Map.of("ph", "7"))).findings().all())
                .extracting(Finding::field, Finding::code)
                .containsExactly(org.assertj.core.groups.Tuple.tuple("site", Finding.Code.REQUIRED));
        var asked = stopped(sent(Map.of("site", "QB-03", "ph", "3")));
        assertThat(asked.findings().stop()).isFalse();
        assertThat(rows(samples)).isZero();
        saving.save(sent(Map.of("site", "QB-03", "ph", "3"), "rare=yes"));
        assertThat(rows(samples)).isEqualTo(1);
    }

    @Test
    void aQuestionIsAskedBeforeAnythingIsWrittenAndWhatGoesWithAnEntryIsWrittenWithIt() {
        var typed = Map.of("site", "QB-03", "bad", "y");
        var question = stopped(sent(typed)).question().orElseThrow();
        assertThat(question.text()).isEqualTo("Tell somebody?");
        assertThat(question.usual()).isEqualTo(Reply.NO);
        assertThat(rows(samples) + rows(incidents)).isZero();
        var saved = saving.save(sent(typed, "offer=no")).record();
        assertThat(records.find(SeenTable.all(incidents), 1).orElseThrow().values())
                .containsEntry("place", text("QB-03"))
                .containsEntry("seen", new Value.Whole(saved.row()));
    }

    @Test
    void whatAnotherTableRefusesStopsAllOfIt() {
        var site = published(new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(new Steps(
                        Steps.SAVED,
                        List.of(new Step(
                                "",
                                new Step.AddRow(incidents.definition().name(), List.of(new Setting("seen", "1"))))))),
                List.of()));
        var refused = catchThrowableOfType(
                Stopped.class,
                () -> saving.save(new Sent(
                        site, draft(Map.of("site", "x"), OptionalLong.empty(), Map.of()), 0, Optional.empty(), ODILE)));
        assertThat(refused.findings().all().getFirst().message()).startsWith("Nothing was saved:");
        assertThat(rows(samples) + rows(incidents)).isZero();
    }

    @Test
    void theSameEntryUnderOneKeyIsSavedOnceAndAnotherUnderItIsRefused() {
        var first =
                saving.save(keyed(Map.of("site", "a", "number", "S-1"), "k")).record();
        assertThat(saving.save(keyed(Map.of("site", "a", "number", "S-1"), "k")).record())
                .isEqualTo(first);
        var reused = catchThrowableOfType(
                NotSaved.class, () -> saving.save(keyed(Map.of("site", "b", "number", "S-2"), "k")));
        assertThat(reused.reason()).isEqualTo(NotSaved.Reason.KEY_REUSED);
        assertThat(rows(samples)).isEqualTo(1);
        assertThat(stopped(keyed(Map.of("site", "c", "number", "S-1"), "other"))
                        .findings()
                        .all())
                .extracting(Finding::message)
                .containsExactly("Row 1 already has S-1. No two records may share it.");
    }

    @Test
    void aChangeNeedsTheVersionThatIsThere() {
        var record = saving.save(sent(Map.of("site", "QB-03"))).record();
        var change = draft(Map.of("site", "QB-04"), OptionalLong.of(record.id()), record.values());
        var changed =
                saving.save(new Sent(form, change, 1, Optional.empty(), ODILE)).record();
        assertThat(changed.version()).isEqualTo(2);
        assertThat(changed.of("site")).isEqualTo(text("QB-04"));
        // The same sent again, as after a lost answer, is done already.
        assertThat(saving.save(new Sent(form, change, 1, Optional.empty(), ODILE))
                        .record())
                .isEqualTo(changed);
        var other = draft(Map.of("site", "QB-05"), OptionalLong.of(record.id()), record.values());
        var stale =
                catchThrowableOfType(Stale.class, () -> saving.save(new Sent(form, other, 1, Optional.empty(), ODILE)));
        assertThat(stale.now()).contains(changed);
    }

    @Test
    void aRehearsalComesToWhatASaveComesToAndKeepsNothing() {
        var typed = Map.of("site", "QB-03", "bad", "y");
        var rehearsed = rehearsing.rehearse(sent(typed, "offer=yes"));
        assertThat(rows(samples) + rows(incidents)).isZero();
        var kept = rehearsed.kept().orElseThrow();
        assertThat(kept.beside()).hasSize(2);
        assertThat(rehearsed.lines()).extracting(line -> line.stage()).contains(Stage.READ, Stage.WRITE, Stage.AFTER);
        var saved = saving.save(sent(typed, "offer=yes")).record();
        assertThat(saved.row()).isEqualTo(kept.record().row());
        assertThat(saved.values()).isEqualTo(kept.record().values());
    }

    @Test
    void aRehearsalOfWhatIsStoppedShowsWhatWouldBeWrittenIfItWereLetThrough() {
        var rehearsed = rehearsing.rehearse(sent(Map.of("ph", "7", "bad", "y"), "offer=no"));
        assertThat(rehearsed.kept()).isEmpty();
        assertThat(rehearsed.findings().stop()).isTrue();
        assertThat(rehearsed.would().record().of("ph").plain()).isEqualTo("7.0");
        assertThat(rehearsed.would().beside()).hasSize(1);
        assertThat(rows(samples) + rows(incidents)).isZero();
    }

    @Test
    void aButtonSetsFieldsAndSavesWhereItsStepsSaySo() {
        var steps = List.of(
                new Step("", new Step.SetField(new Setting("number", "\"S-\" + site"))),
                new Step("", new Step.Press(Command.SAVE)),
                new Step("", new Step.Say("Row {row} is in.")));
        var buttons = published(new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(new Steps("go", steps), new Steps("set", steps.subList(0, 1))),
                List.of()));
        var draft = draft(Map.of("site", "QB-03"), OptionalLong.empty(), Map.of());
        var only = saving.press(new Sent(buttons, draft, 0, Optional.empty(), ODILE), "set", saving::save);
        assertThat(only.set()).containsOnly(Map.entry("number", text("S-QB-03")));
        assertThat(only.saved()).isEmpty();
        assertThat(rows(samples)).isZero();
        var keyed = new Sent(buttons, draft, 0, Optional.empty(), ODILE)
                .under(Optional.of(new SaveKey("pressed", new byte[] {1})));
        var went = saving.press(keyed, "go", saving::save);
        var saved = went.saved().orElseThrow();
        assertThat(saved.record().of("number")).isEqualTo(text("S-QB-03"));
        assertThat(saved.again()).isFalse();
        assertThat(went.then()).contains(new Then.Say("Row 1 is in."));
        assertThat(saving.press(keyed, "go", saving::save).saved()).contains(Saving.Saved.before(saved.record()));
    }

    @Test
    void practiceEntriesSayWhatCameWhereItWasNotExpected() {
        var practised = published(new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(
                        practice("good", Map.of("site", "QB-03"), Practice.Outcome.SAVED, ""),
                        practice("needs a site", Map.of("ph", "7"), Practice.Outcome.STOPPED, "required"),
                        practice("wrong", Map.of("ph", "7"), Practice.Outcome.SAVED, ""))));
        var runs = rehearsing.practise(practised);
        assertThat(runs).extracting(run -> run.asExpected()).containsExactly(true, true, false);
        assertThat(runs.getLast().words())
                .isEqualTo("Expected to be saved, but it is stopped. Site is needed. Type it here.");
        assertThat(rows(samples)).isZero();
    }

    private static Practice practice(String name, Map<String, String> typed, Practice.Outcome outcome, String code) {
        return new Practice(name, name, typed, Map.of(), outcome, code, Map.of());
    }

    @Test
    void whatIsSavedByTheFormGivesTheSameRecordAsWritingItsValues() {
        var other = Given.table("after-last", "site text required", "number text unique", "ph decimal", "bad yesno");
        var byHand = Given.saved(other, values("site", text("QB-03")), Optional.empty(), "Saffi");
        var byForm = saving.save(sent(Map.of("site", "QB-03"))).record();
        assertThat(records.find(SeenTable.all(samples), byForm.id())
                        .orElseThrow()
                        .values())
                .isEqualTo(records.find(SeenTable.all(other), byHand.id())
                        .orElseThrow()
                        .values());
    }

    @Test
    void aFormThatWasNotMadeReadyIsNowhere() {
        assertThat(definitions.published("nothing")).isEmpty();
        assertThat(Optional.of(form).map(ReadyForm::form).map(Form::table))
                .contains(samples.definition().name());
    }
}
