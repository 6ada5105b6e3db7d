package weft.core.form;

/**
 * A value shown and never typed: what a column holds in the entry at hand, or what a formula comes to.
 *
 * @param label what people read above it
 * @param column the name of the column whose value it shows; empty where a formula says what it shows
 */
public record Calculated(String id, String label, String column, int width) implements Item {

    @Override
    public int height() {
        return 1;
    }

    @Override
    public Calculated wide(int tracks) {
        return new Calculated(id, label, column, tracks);
    }

    @Override
    public Calculated named(String other) {
        return new Calculated(other, label, column, width);
    }
}
