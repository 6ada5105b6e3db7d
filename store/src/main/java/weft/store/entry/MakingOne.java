package weft.store.entry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import weft.core.door.May;
import weft.core.entry.draft.Draft;
import weft.core.record.StoredRow;
import weft.core.table.Faults;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.store.door.Ways.Way;
import weft.store.record.EntryWriter;
import weft.store.record.MadeOne;
import weft.store.record.MadeOne.Made;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.record.TakingBack.AtVersion;

/** Makes records one by a door: what stays goes the way of a change of it, by all rules of the form, as it is once the others are gone. */
public final class MakingOne {

    private final Saving saving;
    private final SavingSheets sheets;
    private final MadeOne madeOne;
    private final Records records;

    /** With these parts of the house. */
    public MakingOne(Saving saving, SavingSheets sheets, MadeOne madeOne, Records records) {
        this.saving = saving;
        this.sheets = sheets;
        this.madeOne = madeOne;
        this.records = records;
    }

    /**
     * What is to be made one.
     *
     * @param from by column, the identity of the record whose value is taken; of others the value stays
     * @param answers by a code, or the id of a check: what was answered
     */
    public record Together(
            AtVersion stays, List<AtVersion> others, Map<String, Long> from, Map<String, String> answers) {}

    /**
     * Makes them one.
     *
     * @param keeps whether anything is kept; else it is only said what would be
     * @throws Faults naming what cannot be followed
     * @throws NotLet when the door lets nobody change or remove
     * @throws Stopped when something is in the way of what they come to
     * @throws Stale when one of them is not what was seen, or not in view
     */
    public Made make(Way door, Together together, boolean keeps) {
        needLet(door);
        var table = door.saving().table();
        var stays = inView(door, together.stays());
        var before = keeps
                ? madeOne.before(
                        table, together.stays(), together.others(), door.pass().by())
                : Optional.<Made>empty();
        if (before.isPresent()) {
            return before.get();
        }
        var all = new ArrayList<>(List.of(stays));
        together.others().forEach(each -> all.add(inView(door, each)));
        var chosen = chosen(door, all, together.from());
        var lines = sheets.lineIds(door.saving(), stays.id());
        try {
            return madeOne.make(
                    table,
                    together.stays(),
                    together.others(),
                    door.pass().by(),
                    (within, now) -> change(within, door, now, chosen, lines, together),
                    keeps);
        } catch (NotSaved e) {
            throw LastWord.stopped(e, table.definition());
        }
    }

    /**
     * Goes on only by a door that lets one change and remove records, and shows all of them.
     *
     * @throws NotLet when it lets one not
     * @throws Faults when it leaves columns out
     */
    public void needLet(Way door) {
        for (var needed : List.of(May.CHANGE, May.REMOVE)) {
            if (!door.pass().may(needed)) {
                throw new NotLet(needed);
            }
        }
        if (!door.shown()
                .seen()
                .definition()
                .columns()
                .equals(door.saving().table().definition().columns())) {
            throw new Faults("from", "This door leaves columns out, so that records cannot be made one by it.");
        }
    }

    private StoredRow inView(Way door, AtVersion record) {
        var seen = door.shown().seen();
        return records.find(seen, record.id()).orElseThrow(() -> new Stale(seen.id(), Optional.empty()));
    }

    private static Map<String, Value> chosen(Way door, List<StoredRow> all, Map<String, Long> from) {
        var chosen = new LinkedHashMap<String, Value>();
        from.forEach((name, id) -> {
            if (id == all.getFirst().id()) {
                return;
            }
            needSettable(door, name);
            var record = all.stream()
                    .filter(each -> each.id() == id)
                    .findFirst()
                    .orElseThrow(() -> new Faults("from." + name, "Its value is taken from one of these records."));
            chosen.put(name, record.of(name));
        });
        return chosen;
    }

    /** As a change of that record alone: no field that the door locks; and what no field shows by the builders' own door only. */
    private static void needSettable(Way door, String name) {
        var form = door.saving();
        var column = form.table()
                .definition()
                .column(name)
                .orElseThrow(() -> new Faults("from." + name, "There is no column “" + name + "”."));
        boolean settable = form.plan()
                .node(column)
                .map(node -> node.field().open() && !node.numbered())
                .orElseGet(() -> door.pass().door().isEverything());
        if (!settable) {
            throw new Faults("from." + name, column.title() + " cannot be changed by this door.");
        }
    }

    /** The change of the record that stays: what was chosen, what the form makes of that, and the lines that have come to it. */
    private EntryWriter.WholeEntry change(
            Records within, Way door, StoredRow stays, Map<String, Value> chosen, Set<Long> lines, Together together) {
        var form = door.saving();
        var typed = new LinkedHashMap<String, Typed>();
        form.plan().columns().forEach(column -> {
            var value = chosen.getOrDefault(column.name(), stays.of(column.name()));
            typed.put(column.name(), value.isEmpty() ? Typed.NOTHING : new Typed.Given(value));
        });
        var around = new Draft.Around(door.pass().called(), Map.of(), Map.of(), together.answers());
        var draft = new Draft(typed, OptionalLong.of(stays.id()), stays.values(), around);
        var asking = sheets.asking(within);
        var sent = asking.withLinesBut(new Sent(form, draft, stays.version(), Optional.empty(), door.pass()), lines);
        var sheet = asking.assess(sent);
        if (!sheet.clear()) {
            throw new Stopped(sheet);
        }
        return saving.asking(within).part(sent, sheet.entry().also(chosen));
    }
}
