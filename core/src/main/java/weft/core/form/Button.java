package weft.core.form;

import weft.core.rule.Command;

/**
 * A button on a form. Those that follow one another stand in a row, all of one size.
 *
 * @param label what stands on it
 * @param icon the name of the sign before the words, or empty
 * @param action what a press does
 * @param opens the form that {@link Command#OPEN} opens, else empty
 * @param key the key that presses it from anywhere in the form
 */
public record Button(String id, String label, String icon, Command action, String opens, Key key, int width)
        implements Item {

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
