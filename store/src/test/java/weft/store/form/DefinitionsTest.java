package weft.store.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.form.Form;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.event.Change;
import weft.store.event.Changes;
import weft.store.record.Records;
import weft.store.table.Columns;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

@ExtendWith(TestDatabase.class)
class DefinitionsTest {

    private final Database database = TestDatabase.get();
    private final Forms forms = new Forms(database.sql());
    private final Columns columns = new Columns(database.sql(), Records::anyTable);
    private final Definitions here = new Definitions(forms, new Tables(database.sql()), database.changes());

    /** As on another server: it hears through the database only. */
    private final Changes line = new Changes(database.source());

    private final Definitions there = new Definitions(forms, new Tables(database.sql()), line);
    private final BlockingQueue<Change> heard = new LinkedBlockingQueue<>();

    private StoredTable table;
    private Form form;

    @BeforeEach
    void given() throws InterruptedException {
        table = Given.table("after-last", "site text", "ph decimal");
        form = forms.make(table, Conventions.DEFAULT).form();
        line.listen(heard::add);
        tellAndAwait();
        here.published(form.id());
        there.published(form.id());
    }

    @AfterEach
    void over() {
        line.close();
    }

    private ReadyForm published(Definitions by) {
        return by.published(form.id()).orElseThrow();
    }

    private void change(String title) {
        int revision = forms.revision(form.id()).orElseThrow();
        forms.change(revision, FormDocument.checked(form.named(form.id(), title)), "Bram");
    }

    /** Waits until the other server has heard all that was told before. */
    private void tellAndAwait() throws InterruptedException {
        var last = Given.table("after-last", "site text").id();
        for (Change each; !new Change.OfTable(last).equals(each = heard.poll(20, TimeUnit.SECONDS)); ) {
            assertThat(each).as("something was told").isNotNull();
        }
    }

    private void addColumn(StoredTable to, String name) {
        columns.add(to.definition().name(), List.of(Column.plain(name, name, ColumnType.TEXT)));
    }

    @Test
    void aWorkingCopyThatIsSavedCostsNoKeyerAnything() throws InterruptedException {
        tellAndAwait();
        var before = published(there);
        var tableBefore = there.table(table.definition().name()).orElseThrow();
        change("Other");
        for (Change each; !((each = heard.poll(20, TimeUnit.SECONDS)) instanceof Change.OfWorkingCopy); ) {
            assertThat(each).isNotNull();
        }
        assertThat(published(there)).isSameAs(before);
        assertThat(there.table(table.definition().name())).containsSame(tableBefore);
        assertThat(there.workingCopy(form.id()).orElseThrow().form().title()).isEqualTo("Other");
    }

    @Test
    void aWorkingCopyIsReadOnceAndNeverAnOlderOneThanThereIs() {
        var read = here.workingCopy(form.id());
        assertThat(here.workingCopy(form.id()).orElseThrow()).isSameAs(read.orElseThrow());
        for (int n = 1; n <= 20; n++) {
            change("Title " + n);
            assertThat(here.workingCopy(form.id()).orElseThrow().form().title()).isEqualTo("Title " + n);
            assertThat(there.workingCopy(form.id()).orElseThrow().form().title())
                    .isEqualTo("Title " + n);
        }
    }

    @Test
    void whatThisServerChangedIsKnownHereBeforeTheCallReturnsAndThereAMomentLater() throws InterruptedException {
        change("Other");
        forms.publish(form.id(), "Bram");
        assertThat(published(here).form().title()).isEqualTo("Other");
        addColumn(table, "depth");
        assertThat(here.table(table.definition().name())
                        .orElseThrow()
                        .definition()
                        .column("depth"))
                .isPresent();
        tellAndAwait();
        assertThat(published(there).form().title()).isEqualTo("Other");
        assertThat(published(there).table().definition().column("depth")).isPresent();
    }

    @Test
    void anEntryBegunOnAnEarlierVersionFindsItAsItWas() {
        change("Other");
        forms.publish(form.id(), "Bram");
        assertThat(here.published(form.id(), 1).orElseThrow().form().title()).isEqualTo(form.title());
        assertThat(here.published(form.id(), 2).orElseThrow()).isSameAs(published(here));
        assertThat(here.published(form.id(), 3)).isEmpty();
        assertThat(here.published("no such form")).isEmpty();
    }

    @Test
    void aChangeThatIsNotKeptIsNotHeard() {
        var before = published(here);
        try {
            database.sql().transaction(inner -> {
                Columns.add(
                        inner.dsl(),
                        table.definition().name(),
                        List.of(Column.plain("depth", "Depth", ColumnType.TEXT)));
                throw new IllegalStateException("given up");
            });
        } catch (IllegalStateException givenUp) {
            assertThat(givenUp).hasMessage("given up");
        }
        assertThat(published(here)).isSameAs(before);
    }
}
