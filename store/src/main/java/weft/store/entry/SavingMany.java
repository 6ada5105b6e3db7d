package weft.store.entry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weft.core.entry.Assessment;
import weft.core.entry.Batch;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Findings;
import weft.core.record.StoredRow;
import weft.store.form.ReadyForm;
import weft.store.record.EntryWriter;
import weft.store.record.Following;
import weft.store.record.NotSaved;
import weft.store.record.SaveKey;

/** Saves the lines of a batch: all of them or none, or those that nothing is in the way of. */
public final class SavingMany {

    private static final int TRIES = 4;

    private final Saving saving;
    private final Batch batch;
    private final EntryWriter writer;

    /** Each line goes the way of a single entry. */
    public SavingMany(EntryEngine engine, Saving saving, EntryWriter writer) {
        this.batch = new Batch(engine);
        this.saving = saving;
        this.writer = writer;
    }

    /** A line, by its place in the batch from 1. */
    public record SentLine(int line, Sent sent) {}

    /**
     * What came of a batch, by line.
     *
     * @param saved the records that lines became
     * @param left what is in the way of those that are not saved
     * @param again whether they were saved before, under the same key, and nothing now
     */
    public record SavedLines(Map<Integer, StoredRow> saved, Map<Integer, Findings> left, boolean again) {}

    /** Something is in the way of some lines. Nothing was written. */
    public static final class LinesStopped extends RuntimeException {
        private final transient Map<Integer, Findings> findings;

        private LinesStopped(Map<Integer, Findings> findings) {
            super("stopped");
            this.findings = new TreeMap<>(findings);
        }

        /** What is in the way, by line. */
        public Map<Integer, Findings> findings() {
            return findings;
        }
    }

    /** What is to be said of each line now. Nothing is written. */
    public List<Assessment> assess(ReadyForm form, List<Draft> lines) {
        return assess(form, lines, () -> {});
    }

    /**
     * The same, said while it goes on.
     *
     * @param looked run each time that one of the lines was looked at, by several threads perhaps
     */
    public List<Assessment> assess(ReadyForm form, List<Draft> lines, Runnable looked) {
        return assess(form, lines, false, looked);
    }

    private List<Assessment> assess(ReadyForm form, List<Draft> lines, boolean passing, Runnable looked) {
        return batch.assess(form.plan(), form.seen().definition(), lines, saving.rows(form), passing, looked);
    }

    /**
     * Saves the lines as one; a batch that was saved under its key before is not saved again.
     *
     * @param lines one at least, all by one form
     * @param passing whether those are saved that nothing is in the way of; otherwise all or none
     * @throws LinesStopped when something is in the way of one of them, or of each
     * @throws NotSaved when the key was used for another batch
     */
    public SavedLines save(List<SentLine> lines, Optional<SaveKey> key, boolean passing) {
        var late = new TreeMap<Integer, Findings>();
        for (int attempt = 1; ; attempt++) {
            var left = new TreeMap<>(late);
            var others = lines.stream()
                    .filter(line -> !late.containsKey(line.line()))
                    .toList();
            var parts = parts(others, left, key, passing);
            if (!left.isEmpty()) {
                // Lines that were saved before under this key may well collide with themselves by now.
                var first = before(lines, key);
                if (first.isPresent()) {
                    return first.get();
                }
                if (parts.isEmpty() || !passing) {
                    throw new LinesStopped(left);
                }
            }
            try {
                return new SavedLines(written(parts), left, false);
            } catch (LineStopped stopped) {
                late.put(stopped.line, stopped.findings);
            } catch (NotSaved refused) {
                // The same batch was saved before, or just now; else what was lost in a race is seen at the next try.
                var meanwhile = before(lines, key);
                if (meanwhile.isPresent()) {
                    return meanwhile.get();
                }
                if (attempt == TRIES || !refused.elsewhere().isEmpty()) {
                    throw new LinesStopped(Map.of(parts.firstEntry().getKey(), said(refused, lines)));
                }
            }
        }
    }

    private static Findings said(NotSaved refused, List<SentLine> lines) {
        if (refused.reason() == NotSaved.Reason.KEY_REUSED) {
            throw refused;
        }
        var table = lines.getFirst().sent().form().table().definition();
        return LastWord.stopped(refused, table).findings();
    }

    /** The first answer to a batch of that key, with what is in the way of its other lines now. */
    private Optional<SavedLines> before(List<SentLine> lines, Optional<SaveKey> key) {
        var table = lines.getFirst().sent().form().table();
        var saved = key.map(known ->
                        writer.keys().linesBefore(table, known, lines.getLast().line()))
                .orElse(Map.of());
        if (saved.isEmpty()) {
            return Optional.empty();
        }
        var left = new TreeMap<Integer, Findings>();
        parts(lines.stream().filter(line -> !saved.containsKey(line.line())).toList(), left, key, true);
        return Optional.of(new SavedLines(saved, left, true));
    }

    /** What is to be written of each line that nothing is in the way of; the others are left. */
    private TreeMap<Integer, EntryWriter.WholeEntry> parts(
            List<SentLine> lines, Map<Integer, Findings> left, Optional<SaveKey> key, boolean passing) {
        var parts = new TreeMap<Integer, EntryWriter.WholeEntry>();
        if (lines.isEmpty()) {
            return parts;
        }
        var form = lines.getFirst().sent().form();
        var drafts = lines.stream().map(line -> line.sent().draft()).toList();
        var assessments = assess(form, drafts, passing, () -> {});
        for (int i = 0; i < lines.size(); i++) {
            int line = lines.get(i).line();
            var assessment = assessments.get(i);
            if (!assessment.findings().none()) {
                left.put(line, assessment.findings());
            } else {
                try {
                    var sent = lines.get(i).sent().under(key.map(known -> known.ofLine(line)));
                    var part = saving.part(sent, assessment);
                    parts.put(line, new EntryWriter.WholeEntry(part.entry(), telling(line, part.following())));
                } catch (Stopped stopped) {
                    left.put(line, stopped.findings());
                }
            }
        }
        return parts;
    }

    private Map<Integer, StoredRow> written(TreeMap<Integer, EntryWriter.WholeEntry> parts) {
        var kept = writer.saveAll(new ArrayList<>(parts.values()));
        var saved = new LinkedHashMap<Integer, StoredRow>();
        int at = 0;
        for (var line : parts.keySet()) {
            saved.put(line, kept.get(at++).record());
        }
        return saved;
    }

    /** What follows a line is in its way. */
    private static final class LineStopped extends RuntimeException {
        private final int line;
        private final transient Findings findings;

        LineStopped(int line, Findings findings) {
            super("stopped", null, false, false);
            this.line = line;
            this.findings = findings;
        }
    }

    /** The same, which says of which line it is when it ends the save. */
    private static Following telling(int line, Following following) {
        return following.around(after -> (written, rows) -> {
            try {
                return after.of(written, rows);
            } catch (Stopped stopped) {
                throw new LineStopped(line, stopped.findings());
            }
        });
    }
}
