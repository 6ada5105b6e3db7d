package weft.store.door;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import weft.core.door.Door;
import weft.core.door.DoorFrays;
import weft.core.door.May;
import weft.core.door.Narrowing;
import weft.core.door.Pass;
import weft.core.door.Shown;
import weft.core.entry.plan.EntryPlan;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.find.View.Condition;
import weft.core.find.Where;
import weft.core.record.StoredRow;
import weft.core.table.Table;
import weft.core.twice.Standing;
import weft.store.find.FindSql;
import weft.store.form.Definitions;
import weft.store.form.Forms;
import weft.store.form.ReadyForm;
import weft.store.form.ShownForm;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/** Forms made ready for those who come by a door, kept for as long as the form and the door stay what they are. */
public final class Ways {

    private static final int MOST = 1_000;

    private final Definitions definitions;

    private final Cache<String, MadeForm> made =
            Caffeine.newBuilder().maximumSize(MOST).build();

    /** What was made of a form by a door as it is kept, whose columns are called in the other as the table calls them. */
    private record MadeForm(
            ReadyForm form,
            Door kept,
            Door door,
            Narrowing narrowing,
            ReadyForm saving,
            ShownForm shown,
            AtomicReference<Behind> behind) {

        /** What the records behind the door match at that moment. */
        Behind behind(LocalDateTime now) {
            var minute = now.truncatedTo(ChronoUnit.MINUTES);
            return behind.updateAndGet(read -> read.minute().equals(minute) ? read : Behind.of(form, door, minute));
        }
    }

    /**
     * What the records behind a door match, read in that minute: criteria tell no two moments of one apart.
     *
     * @param conditions empty when a criterion cannot be read any more, and then none is to be seen
     */
    private record Behind(LocalDateTime minute, Optional<List<Condition>> conditions) {

        static final Behind UNREAD = new Behind(LocalDateTime.MIN, Optional.empty());

        static Behind of(ReadyForm form, Door door, LocalDateTime minute) {
            return new Behind(minute, Ways.conditions(form, door, minute));
        }
    }

    /** On those forms and tables. */
    public Ways(Definitions definitions) {
        this.definitions = definitions;
    }

    /**
     * A form by a door, for one who goes through.
     *
     * @param pass what they may do
     * @param narrowing what of records and entries they get
     * @param saving by which entries are assessed and saved
     * @param shown which is sent, with the part of the table that is to be seen
     */
    public record Way(Pass pass, Narrowing narrowing, ReadyForm saving, ShownForm shown) {

        /** What of a record they get. */
        public Shown<StoredRow> of(StoredRow row) {
            return narrowing.of(row);
        }

        /** What of records they get. */
        public List<Shown<StoredRow>> of(List<StoredRow> rows) {
            return rows.stream().map(this::of).toList();
        }
    }

    /** The latest published form by that pass; empty when none is published. */
    public Optional<Way> latest(Pass pass, LocalDateTime now) {
        return definitions.published(pass.door().form()).map(form -> way(form, pass, now));
    }

    /** The form of that version by that pass; empty when there is none. */
    public Optional<Way> version(Pass pass, int version, LocalDateTime now) {
        return definitions.published(pass.door().form(), version).map(form -> way(form, pass, now));
    }

    /** That form by that pass. */
    public Way way(ReadyForm form, Pass through, LocalDateTime now) {
        var pass = pass(form, through);
        if (pass.door().isEverything()) {
            return new Way(
                    pass, Narrowing.of(form.form(), form.table().definition(), pass.door()), form, ShownForm.all(form));
        }
        var ready = made(form, pass.door());
        var part = part(ready, pass, now);
        var shown = ready.shown();
        return new Way(
                pass,
                ready.narrowing(),
                ready.saving().seeing(part),
                new ShownForm(shown.document(), part, shown.plan()));
    }

    /** What may be done by a pass, where the table takes that at all. */
    public static Pass pass(ReadyForm form, Pass pass) {
        return form.table().definition().shownOnly() ? pass.onlySeeing() : pass;
    }

    private SeenTable part(MadeForm ready, Pass pass, LocalDateTime now) {
        var table = ready.form().table();
        var columns = ready.narrowing().table();
        var conditions = pass.may(May.SEE) ? ready.behind(now).conditions() : Optional.<List<Condition>>empty();
        return conditions
                .map(all -> FindSql.part(
                        table,
                        columns,
                        all,
                        new FindSql.Seer(
                                pass.by(),
                                ready.door().view().own(),
                                ready.door().twice().isPresent() && pass.may(May.ADD))))
                .orElseGet(() -> FindSql.none(table, columns));
    }

    private static Optional<List<Condition>> conditions(ReadyForm form, Door door, LocalDateTime now) {
        var reader = new CriterionReader(form.form().conventions(), now);
        var conditions = new ArrayList<Condition>();
        for (var written : door.view().where()) {
            var where = Where.of(written);
            var column = where.column().equals(Standing.COLUMN.name())
                    ? Optional.of(Standing.COLUMN)
                    : form.table().definition().column(where.column());
            if (column.isEmpty()
                    || where.typed().isBlank()
                    || !(reader.read(column.get(), where.typed()) instanceof Criterion.Read(var criterion))) {
                return Optional.empty();
            }
            conditions.add(new Condition(column.get(), form.label(column.get()), criterion));
        }
        return Optional.of(conditions);
    }

    @SuppressWarnings("ReferenceEquality") // A form made ready anew is another one.
    private MadeForm made(ReadyForm form, Door door) {
        var key = door.id() + " " + form.document().revision();
        var there = made.getIfPresent(key);
        if (there != null && there.form() == form && there.kept().equals(door)) {
            return there;
        }
        var fresh = make(form, door);
        made.put(key, fresh);
        return fresh;
    }

    /** Makes a form ready by a door. */
    private MadeForm make(ReadyForm form, Door kept) {
        var table = form.table().definition();
        var door = kept.following(table);
        var narrowing = Narrowing.of(form.form(), table, door);
        var document = form.document();
        return new MadeForm(
                form,
                kept,
                door,
                narrowing,
                new ReadyForm(
                        new Forms.Document(document.revision(), narrowing.saving(), document.archived()),
                        form.table(),
                        EntryPlan.of(narrowing.saving(), table, this::other)),
                new ShownForm(
                        new Forms.Document(document.revision(), narrowing.shown(), document.archived()),
                        FindSql.none(form.table(), narrowing.table()),
                        EntryPlan.of(narrowing.shown(), narrowing.table(), this::other)),
                new AtomicReference<>(Behind.UNREAD));
    }

    private Optional<Table> other(String name) {
        return definitions.table(name).map(StoredTable::definition);
    }

    /** What of a door does not fit its form and table any more, in sentences. */
    public List<String> frays(ReadyForm form, Door door, LocalDateTime now) {
        var ready = make(form, door);
        return DoorFrays.of(
                ready.door(),
                form.form(),
                form.table().definition(),
                ready.saving().plan(),
                now);
    }
}
