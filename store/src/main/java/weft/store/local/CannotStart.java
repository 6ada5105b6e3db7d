package weft.store.local;

/** Why Weft can't start, as one or two plain sentences for the person at the terminal. */
public final class CannotStart extends RuntimeException {

    /** With a sentence for the person at the terminal. */
    public CannotStart(String sentence) {
        super(sentence);
    }
}
