package weft.core.form;

/**
 * A button on a form. Those that follow one another stand in a row, all of one size.
 *
 * @param label what stands on it
 * @param icon the name of the sign before the words, or empty
 * @param action what a press does
 * @param opens the form that {@link Action#OPEN} opens, else empty
 * @param key the key that presses it from anywhere in the form
 */
public record Button(String id, String label, String icon, Action action, String opens, Key key, int width)
        implements Item {

    /** What a press does. */
    public enum Action {
        SAVE,
        CLEAR,
        NEW,
        FIRST,
        PREVIOUS,
        NEXT,
        LAST,
        FIND,
        DELETE,
        PUT_BACK,
        CLOSE,
        OPEN
    }

    /** The key that presses a button. */
    public enum Key {
        NONE,
        ENTER,
        ESC
    }

    @Override
    public int height() {
        return 1;
    }

    @Override
    public Button wide(int tracks) {
        return new Button(id, label, icon, action, opens, key, tracks);
    }

    @Override
    public Button named(String other) {
        return new Button(other, label, icon, action, opens, key, width);
    }
}
