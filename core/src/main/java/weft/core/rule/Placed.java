package weft.core.rule;

/**
 * A step and where it is taken.
 *
 * @param when the place, as in {@link Step.Steps}
 */
public record Placed(String when, Step step) implements Declaration {

    /** Whether it comes after a save, rather than when a button is pressed. */
    public boolean saving() {
        return when.equals(Step.Steps.SAVED) || when.equals(Step.Steps.CHANGED);
    }
}
