package weft.core.form;

/**
 * Words on a form beside its fields, or a line.
 *
 * @param text the heading, or text in CommonMark; empty for a divider
 */
public record Words(String id, Kind kind, String text, int width, int height) implements Item {

    /** What they are. */
    public enum Kind {
        HEADING,
        TEXT,
        DIVIDER
    }

    @Override
    public Words wide(int tracks) {
        return new Words(id, kind, text, tracks, height);
    }

    @Override
    public Words named(String other) {
        return new Words(other, kind, text, width, height);
    }
}
