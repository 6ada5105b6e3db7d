package weft.server.form;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import org.springframework.stereotype.Component;
import weft.core.entry.EntryPlan;
import weft.core.form.Form;
import weft.core.form.Fray;
import weft.core.form.Frays;
import weft.server.Problems.Problem;
import weft.store.event.Change;
import weft.store.form.Forms;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/**
 * Published forms with their tables and plans, kept ready. A change of a definition on any server, told by the database,
 * empties it on all.
 */
@Component
public class PreparedForms {

    private final Forms forms;
    private final Tables tables;
    private final Map<String, Prepared> prepared = new ConcurrentHashMap<>();
    private final Map<String, StoredTable> known = new ConcurrentHashMap<>();
    private final AtomicInteger changes = new AtomicInteger();

    PreparedForms(Forms forms, Tables tables) {
        this.forms = forms;
        this.tables = tables;
    }

    /** A published form, ready for entries. */
    public record Prepared(Forms.Document document, Form form, StoredTable table, EntryPlan plan) {

        /** The frays of the form, and what of its rules cannot be followed. */
        public List<Fray> frays(LocalDateTime now) {
            var frays = new ArrayList<>(Frays.of(form, table.definition(), now));
            plan.faults().forEach(fault -> frays.add(Fray.ofRule(fault.about(), fault.sentence(), form)));
            return frays;
        }
    }

    /** The latest published version of a form; 404 when there is none. */
    public Prepared published(String id) {
        return kept(prepared, id, this::prepare);
    }

    /** That version, or the latest when none is said; 404 when there is none. An entry is saved by the version it was begun on. */
    public Prepared published(String id, Optional<Integer> version) {
        if (version.isEmpty() || published(id).document().revision() == version.get()) {
            return published(id);
        }
        return kept(
                prepared,
                id + " " + version.get(),
                _ -> prepare(forms.published(id, version.get())
                        .orElseThrow(() -> Problem.unknown("version " + version.get() + " of form " + id))));
    }

    /** The working copy; 404 when there is none. */
    public Prepared workingCopy(String id) {
        return prepare(forms.workingCopy(id).orElseThrow(() -> Problem.unknown("form " + id)));
    }

    private Prepared prepare(String id) {
        return prepare(forms.published(id).orElseThrow(() -> Problem.unknown("published form " + id)));
    }

    private Prepared prepare(Forms.Document document) {
        var form = document.form();
        var table = table(form.table());
        return new Prepared(
                document,
                form,
                table,
                EntryPlan.of(form, table.definition(), name -> find(name).map(StoredTable::definition)));
    }

    /** The table of that name, or empty. */
    public Optional<StoredTable> find(String name) {
        return Optional.ofNullable(known.get(name)).or(() -> tables.find(name).map(_ -> table(name)));
    }

    /** The table of that name; 404 when there is none. */
    public StoredTable table(String name) {
        return kept(known, name, asked -> tables.find(asked).orElseThrow(() -> Problem.unknown("table " + asked)));
    }

    /**
     * Not with computeIfAbsent, which would hold others up for as long as the database takes. What was fetched while
     * definitions changed may be old, and is not kept.
     */
    private <T> T kept(Map<String, T> all, String key, Function<String, T> fetch) {
        var found = all.get(key);
        if (found == null) {
            int before = changes.get();
            found = fetch.apply(key);
            all.put(key, found);
            if (changes.get() != before) {
                all.remove(key, found);
            }
        }
        return found;
    }

    /** Lets go of everything when definitions changed, or may have. */
    public void hear(Change change) {
        if (!(change instanceof Change.OfRecord)) {
            forget();
        }
    }

    /** Lets go of everything. */
    public void forget() {
        changes.incrementAndGet();
        prepared.clear();
        known.clear();
    }
}
