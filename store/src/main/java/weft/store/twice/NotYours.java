package weft.store.twice;

/** A paper is not theirs to key or to settle; the sentence says why and what to do. Nothing was written. */
public final class NotYours extends RuntimeException {

    NotYours(String sentence) {
        super(sentence);
    }

    static NotYours keyed() {
        return new NotYours("This paper is not yours to key: somebody else has it by now, or it was keyed meanwhile. "
                + "Take the next one.");
    }

    static NotYours settled() {
        return new NotYours("This paper is settled by now, or gone. Take the next one.");
    }

    static NotYours own() {
        return new NotYours("You keyed this paper yourself. Somebody who did not settles it.");
    }

    /** What is wrong, and what to do. */
    public String sentence() {
        return String.valueOf(getMessage());
    }
}
