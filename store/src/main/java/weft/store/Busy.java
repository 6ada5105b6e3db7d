package weft.store;

/** Too many do the same long work at once. The message says so in a sentence; nothing was done. */
public final class Busy extends RuntimeException {

    /** With a sentence for the one who waited. */
    public Busy(String sentence) {
        super(sentence);
    }
}
