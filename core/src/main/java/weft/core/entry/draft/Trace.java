package weft.core.entry.draft;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/** What the engine did with an entry, stage by stage: the run sheet of a rehearsal. */
public final class Trace {

    private final List<Line> lines = new ArrayList<>();
    private final boolean kept;
    private long since = System.nanoTime();

    private Trace(boolean kept) {
        this.kept = kept;
    }

    /** A trace that is kept. */
    public static Trace kept() {
        return new Trace(true);
    }

    /** A trace that nobody reads. */
    public static Trace none() {
        return new Trace(false);
    }

    /** Whether somebody reads it. */
    public boolean isRead() {
        return kept;
    }

    /** The stages of an entry. */
    public enum Stage {
        READ,
        FILL,
        FORMULA,
        CHECK,
        WRITE,
        AFTER;
    }

    /** How a line came out. */
    public enum Mark {
        DONE,
        /** There is nothing to go by. */
        SILENT,
        ASK,
        STOP,
        /** A rule itself is broken. */
        FAULT;
    }

    /**
     * A line of the run sheet.
     *
     * @param about the column, or the id of the rule, that it speaks of; empty for the whole entry
     * @param rule the id of the check, fill or constraint, or the column of the choice list, that it comes from; else empty
     * @param micros how long it took, in microseconds
     */
    public record Line(Stage stage, Mark mark, String about, String rule, String text, long micros) {}

    /** Takes down what was done since the line before. */
    public void add(Stage stage, Mark mark, String about, Supplier<String> text) {
        add(stage, mark, about, "", text);
    }

    /** Takes down what a rule did since the line before. */
    public void add(Stage stage, Mark mark, String about, String rule, Supplier<String> text) {
        if (kept) {
            long now = System.nanoTime();
            lines.add(new Line(stage, mark, about, rule, text.get(), (now - since) / 1_000));
            since = now;
        }
    }

    /** The lines in their order. */
    public List<Line> lines() {
        return List.copyOf(lines);
    }
}
