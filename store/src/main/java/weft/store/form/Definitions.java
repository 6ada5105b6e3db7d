package weft.store.form;

import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Form;
import weft.core.rule.Rules;
import weft.store.event.Change;
import weft.store.event.Changes;
import weft.store.table.KnownTables;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/**
 * Tables and forms as they are now, kept ready in memory. It listens to what changes, on any server, and lets go of just
 * that: a working copy that is saved costs no keyer anything. What was changed by this server is let go before the call that
 * changed it returns.
 */
public final class Definitions implements KnownTables {

    private final Forms forms;
    private final Tables tables;
    private final Map<String, StoredTable> known = bounded();
    private final Map<StoredVersion, ReadyForm> published = bounded();
    private final Map<String, ReadyForm> copies = bounded();
    private final AtomicInteger changes = new AtomicInteger();

    /** Of so many of a kind those that were used of late are kept. */
    private static final int MOST = 2_000;

    private static <K, V> Map<K, V> bounded() {
        return Caffeine.newBuilder().maximumSize(MOST).<K, V>build().asMap();
    }

    /** A version of a form; 0 for the latest. */
    private record StoredVersion(String form, int number) {}

    /** Keeps what those know until it hears of a change. */
    public Definitions(Forms forms, Tables tables, Changes changes) {
        this.forms = forms;
        this.tables = tables;
        changes.listenAtOnce(this::hear);
    }

    /** The latest published version of a form, or empty when there is none. */
    public Optional<ReadyForm> published(String id) {
        return kept(
                published, new StoredVersion(id, 0), () -> forms.published(id).map(this::ready));
    }

    /** That version of a form, or empty when there is none. An entry is saved by the version it was begun on. */
    public Optional<ReadyForm> published(String id, int version) {
        return published(id)
                .filter(latest -> latest.document().revision() == version)
                .or(() -> kept(
                        published,
                        new StoredVersion(id, version),
                        () -> forms.published(id, version).map(this::ready)));
    }

    /** The working copy of a form, never an older one than there is; empty when there is none. */
    public Optional<ReadyForm> workingCopy(String id) {
        var revision = forms.revision(id);
        var copy = copies.get(id);
        if (revision.isPresent() && copy != null && copy.document().revision() == revision.get()) {
            return Optional.of(copy);
        }
        copies.remove(id);
        return kept(copies, id, () -> forms.workingCopy(id).map(this::ready));
    }

    private ReadyForm ready(Forms.Document document) {
        var table = table(document.form().table()).orElseThrow();
        return new ReadyForm(document, table, plan(document.form(), table));
    }

    /** The plan of a form as if it had just those rules. */
    public EntryPlan planned(ReadyForm form, Rules rules) {
        return plan(form.form().ruled(rules), form.table());
    }

    private EntryPlan plan(Form form, StoredTable table) {
        return EntryPlan.of(form, table.definition(), name -> table(name).map(StoredTable::definition));
    }

    /** The lines of that id on a form, as a form of their own on their table; empty when there are none that could be keyed. */
    public Optional<ReadyForm> lines(ReadyForm form, String id) {
        return form.plan()
                .linesOf(id)
                .flatMap(lines -> table(lines.item().table())
                        .map(table -> new ReadyForm(
                                new Forms.Document(
                                        form.document().revision(),
                                        lines.plan().form(),
                                        form.document().archived()),
                                table,
                                lines.plan())));
    }

    @Override
    public Optional<StoredTable> table(String name) {
        return kept(known, name, () -> tables.find(name));
    }

    /**
     * Not with computeIfAbsent, which would hold others up for as long as the database takes. What was fetched while
     * definitions changed may be old, and is not kept.
     */
    private <K, T> Optional<T> kept(Map<K, T> all, K key, Supplier<Optional<T>> fetch) {
        var there = all.get(key);
        if (there != null) {
            return Optional.of(there);
        }
        int before = changes.get();
        var fetched = fetch.get();
        fetched.ifPresent(found -> {
            all.put(key, found);
            if (changes.get() != before) {
                all.remove(key, found);
            }
        });
        return fetched;
    }

    private void hear(Change change) {
        switch (change) {
            case Change.OfRecord _, Change.OfRecords _ -> {
                // What records hold defines nothing.
            }
            case Change.OfWorkingCopy(long _, var form) -> {
                changes.incrementAndGet();
                copies.remove(form);
            }
            case Change.OfPublished(long _, var form) -> {
                changes.incrementAndGet();
                published.remove(new StoredVersion(form, 0));
            }
            case Change.OfTable _ -> {
                changes.incrementAndGet();
                // Columns of any table may link to it, and rules of any form look into it.
                known.clear();
                published.clear();
                copies.clear();
            }
            case Change.Unheard() -> {
                changes.incrementAndGet();
                known.clear();
                published.clear();
                copies.clear();
            }
        }
    }
}
