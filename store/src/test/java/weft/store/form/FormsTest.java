package weft.store.form;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.groups.Tuple.tuple;

import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.door.Door;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Rules;
import weft.core.value.Conventions;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.door.Doors;
import weft.store.find.KeptFinds;
import weft.store.form.Forms.Way;
import weft.store.table.StoredTable;

@ExtendWith(TestDatabase.class)
class FormsTest {

    private final Forms forms = new Forms(TestDatabase.get().sql());
    private StoredTable table;
    private Form form;

    @BeforeEach
    void given() {
        table = Given.table("after-last", "site text", "ph decimal");
        form = forms.make(table, Conventions.DEFAULT).form();
    }

    private String titled(int revision, String title) {
        return forms.change(revision, FormDocument.checked(form.named(form.id(), title)), "Bram")
                .form()
                .title();
    }

    private String stepped(int revision, Way way) {
        return forms.step(form.id(), revision, way).form().title();
    }

    @Test
    void oneGoesBackAndForthThroughTheStatesOfAWorkingCopy() {
        titled(1, "One");
        titled(2, "Two");
        assertThat(forms.steps(form.id())).isEqualTo(new Forms.Steps(true, false));
        assertThat(stepped(3, Way.BACK)).isEqualTo("One");
        assertThat(stepped(4, Way.BACK)).isEqualTo(form.title());
        assertThat(forms.steps(form.id())).isEqualTo(new Forms.Steps(false, true));
        assertThat(stepped(5, Way.FORTH)).isEqualTo("One");
        titled(6, "Other");
        assertThat(forms.steps(form.id())).isEqualTo(new Forms.Steps(true, false));
        assertThat(stepped(7, Way.BACK)).isEqualTo("One");
        assertThat(stepped(8, Way.FORTH)).isEqualTo("Other");
        assertThat(stepped(9, Way.FORTH)).isEqualTo("Other");
    }

    @Test
    void nobodyOverwritesWhatAnotherBuilderChanged() {
        titled(1, "Mine");
        assertThatThrownBy(() -> titled(1, "Theirs")).isInstanceOf(Forms.StaleForm.class);
        assertThatThrownBy(() -> stepped(1, Way.BACK)).isInstanceOf(Forms.StaleForm.class);
        assertThatThrownBy(() -> forms.publish(form.id(), 1, "Bram")).isInstanceOf(Forms.StaleForm.class);
        assertThat(forms.workingCopy(form.id()).orElseThrow().form().title()).isEqualTo("Mine");
    }

    @Test
    void everyPublishedVersionStaysAsItWas() {
        titled(1, "Second");
        assertThat(forms.publish(form.id(), 2, "Bram")).isEqualTo(2);
        assertThat(forms.versions(form.id()))
                .extracting(
                        Forms.Version::version,
                        Forms.Version::by,
                        version -> version.form().title())
                .containsExactly(tuple(2, "Bram", "Second"), tuple(1, "somebody", form.title()));
        assertThat(forms.published(form.id(), 1).orElseThrow().form()).isEqualTo(form);
    }

    /** Where a formula says what it shows it is of no column, and none is gone that it would be hidden for. */
    @Test
    void aShownValueIsThereOnceItIsPublished() {
        var shown = new Calculated("much", "How much", "", 4);
        var with = form.withSections(section -> section.with(
                Stream.concat(section.items().stream(), Stream.of(shown)).toList()));
        var says = new Derived("much", Decides.DISPLAYED, "\"x\"");
        var ruled =
                with.ruled(new Rules(List.of(), List.of(), List.of(says), List.of(), List.of(), List.of(), List.of()));
        forms.change(1, FormDocument.checked(ruled), "Bram");
        forms.publish(form.id(), 2, "Bram");
        assertThat(forms.published(form.id()).orElseThrow().form()).isEqualTo(ruled);
    }

    @Test
    void aBroughtFormGetsAnIdThatIsFreeAndIsNotPublished() {
        var brought = forms.bring(table, form);
        assertThat(brought.form().id()).isEqualTo(form.id() + "-2");
        assertThat(forms.published(brought.form().id())).isEmpty();
        assertThat(brought.form().fields().map(Field::column)).containsExactly("site", "ph");
        assertThat(forms.archive(form.id(), true)).isTrue();
        assertThat(forms.publishedOn(table.definition().name())).isEmpty();
        assertThat(forms.archive("no-such-form", true)).isFalse();
    }

    @Test
    void whatAFormItsDoorsAndItsFindsSpellMeansTheSameWhenItIsTypedAnotherWay() {
        var range = new Check("few", new Check.Range("ph", "6.5", "9"), false, false, "");
        var ruled = form.ruled(Rules.NONE.with(List.of(range), List.of()));
        forms.change(1, FormDocument.checked(ruled), "Bram");
        forms.publish(form.id(), 2, "Bram");
        var doors = new Doors(TestDatabase.get().sql());
        var every = Door.everything(form.id());
        doors.make(new Door(
                "acid",
                "Acid",
                form.id(),
                every.who(),
                every.may(),
                new Door.InView(List.of("ph:below 6.5", "site:6.5"), false),
                every.filled(),
                every.fields(),
                every.keying(),
                0,
                false,
                every.done()));
        var finds = new KeptFinds(TestDatabase.get().sql());
        finds.keep(form.id(), form.id(), new KeptFinds.NamedFind("sour", List.of("ph:6.5 to 7"), "", "row"), "Bram");

        var comma = new Conventions(Conventions.DayOrder.DAY_FIRST, Conventions.DecimalSign.COMMA);
        var changed = forms.edit(2, FormDocument.checked(ruled.written(comma)), "Bram");
        assertThat(changed.form().rules().checks()).containsExactly(range.with(new Check.Range("ph", "6,5", "9")));
        assertThat(doors.find("acid").orElseThrow().door().view().where()).contains("ph:below 6.5");

        forms.publish(form.id(), 3, "Bram");
        assertThat(doors.find("acid").orElseThrow().door().view().where()).containsExactly("ph:below 6,5", "site:6.5");
        assertThat(finds.of(form.id()).getFirst().where()).containsExactly("ph:6,5 to 7");
    }
}
