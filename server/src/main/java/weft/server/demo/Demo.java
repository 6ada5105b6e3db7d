package weft.server.demo;

import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;
import weft.core.form.Form;
import weft.core.guess.Signs;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.store.Database;
import weft.store.form.FormDocument;
import weft.store.form.Forms;
import weft.store.imports.ImportColumn;
import weft.store.imports.Imports;
import weft.store.imports.Imports.OnMisfit;
import weft.store.people.Audit.Deed;
import weft.store.record.EntryWriter;
import weft.store.record.EntryWriter.Entry;
import weft.store.record.Following;
import weft.store.record.History;
import weft.store.record.Records;
import weft.store.table.Constraints;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Loads the demo into an empty database, through the same import that people use. The same rows every time. */
@Component
public class Demo {

    private static final long SEED = 20_260_801;
    private static final int CORRECTIONS = 60;
    private static final int DOUBLES = 6;
    private static final int SLIPS = 110;

    private final Database database;
    private final Tables tables;
    private final Forms forms;
    private final Imports imports;
    private final Records records;
    private final History history;
    private final Constraints constraints;
    private final EntryWriter writer;
    private final Team team;
    private final Clock clock;

    Demo(
            Database database,
            Tables tables,
            Forms forms,
            Imports imports,
            Records records,
            History history,
            Constraints constraints,
            EntryWriter writer,
            Team team,
            Clock clock) {
        this.database = database;
        this.tables = tables;
        this.forms = forms;
        this.imports = imports;
        this.records = records;
        this.history = history;
        this.constraints = constraints;
        this.writer = writer;
        this.team = team;
        this.clock = clock;
    }

    /** Does nothing when there is a table already. */
    public void loadIfEmpty() {
        if (!tables.list().isEmpty()) {
            return;
        }
        team.comes();
        var random = new Random(SEED);
        load(Sites.table(), Sites.rows(random));
        load(Volunteers.table(), Volunteers.rows(random));
        var sampleRows = Samples.rows(random);
        var samples = load(Samples.table(), sampleRows);
        Scripts.run(database, "samples_entered");
        correct(samples, random, CORRECTIONS);
        var removed = remove(samples, random);
        correct(samples, new Random(SEED), SLIPS);
        load(HabitatSurvey.table(), HabitatSurvey.rows(random));
        var kitRows = Kit.rows(random);
        load(Kit.table(), kitRows);
        var bookings = load(Bookings.table(), Bookings.rows(random, kitRows));
        load(Incidents.table(this::table), Incidents.rows(random));
        load(SiteNotes.table(this::table), SiteNotes.rows(random));
        load(Counts.taxa(), Counts.taxaRows());
        var counts = load(Counts.table(this::table), Counts.rows(random, without(sampleRows, removed)));
        constraints.add(samples, Samples.constraint());
        constraints.add(bookings, Bookings.constraint());
        constraints.add(counts, Counts.constraint());
        publish("bookings", Bookings::ruled);
        publish("incidents", Incidents::ruled);
        publish("site_notes", SiteNotes::ruled);
        publish("sites", SiteNotes::withButton);
        publish("counts", Counts::ruled);
        var ofCounts = forms.workingCopy("counts").orElseThrow().form();
        publish("samples", _ -> Samples.form(Counts.lines(counts.definition(), ofCounts)));
        publish("volunteers", Volunteers::ruled);
        publish("kit", Kit::ruled);
        team.hangsDoors();
        Scripts.run(database, "gauges");
        Scripts.run(database, "entered");
        Scripts.run(database, "keyed_twice");
        Scripts.run(database, "work");
    }

    private Optional<Table> table(String name) {
        return tables.find(name).map(StoredTable::definition);
    }

    private void publish(String id, UnaryOperator<Form> change) {
        var form = forms.workingCopy(id).orElseThrow();
        forms.change(form.revision(), FormDocument.checked(change.apply(form.form())), Team.BUILDER);
        forms.publish(id, Team.BUILDER)
                .ifPresent(version -> team.told(Deed.FORM_PUBLISHED, id + ", version " + version));
    }

    private StoredTable load(Table table, List<List<String>> rows) {
        var columns = table.columns().stream()
                .map(column -> new ImportColumn(
                        table.columns().indexOf(column),
                        column,
                        "",
                        Optional.empty(),
                        false,
                        Conventions.DEFAULT.dayOrder(),
                        Signs.PLAIN,
                        List.of()))
                .toList();
        var headings = table.columns().stream().map(column -> column.title()).toList();
        var csv = line(headings) + rows.stream().map(Demo::line).collect(Collectors.joining());
        var file = imports.bring(table.name() + ".csv", new ByteArrayInputStream(csv.getBytes(StandardCharsets.UTF_8)));
        return imports.load(file, table, columns, OnMisfit.STOP, Conventions.DEFAULT, Team.BUILDER)
                .table();
    }

    private static String line(List<String> cells) {
        return cells.stream()
                        .map(cell -> '"' + cell.replace("\"", "\"\"") + '"')
                        .collect(Collectors.joining(",")) + "\n";
    }

    /** The rows of those records that were not removed. */
    private static List<List<String>> without(List<List<String>> rows, Set<Long> removed) {
        return IntStream.range(0, rows.size())
                .filter(at -> !removed.contains(at + 1L))
                .mapToObj(rows::get)
                .toList();
    }

    /** Entries that were keyed wrongly and put right, by several people. */
    private void correct(StoredTable samples, Random random, int many) {
        for (int i = 0; i < many; i++) {
            long id = 1 + random.nextLong(Samples.COUNT);
            var by = team.signing(Volunteers.SAMPLERS.get(random.nextInt(Volunteers.SAMPLERS.size())));
            var correction = Samples.correction(random);
            records.find(SeenTable.all(samples), id)
                    .ifPresent(record -> writer.save(
                            Entry.over(samples, id, record.version(), correction, LocalDate.now(clock), by),
                            Following.NOTHING));
        }
    }

    /** Entries that were made twice and removed: those. One was put back. */
    private Set<Long> remove(StoredTable samples, Random random) {
        var removed = new HashSet<Long>();
        for (int i = 0; i < DOUBLES; i++) {
            long id = 1 + random.nextLong(Samples.COUNT);
            records.find(SeenTable.all(samples), id)
                    .ifPresent(record -> records.delete(samples, id, record.version(), "imre"));
            if (i == 0) {
                history.restore(SeenTable.all(samples), id, Team.BUILDER);
            } else {
                removed.add(id);
            }
        }
        return removed;
    }
}
