package weft.store.record;

/** A record is not removed, since others link to it. Nothing was done. */
public final class LinkedTo extends RuntimeException {

    private final String sentence;

    LinkedTo(String table, String column, int many) {
        this(
                many == 1
                        ? "A record of %s links to this one by %s. Remove it or link it elsewhere first."
                                .formatted(table, column)
                        : "%,d records of %s link to this one by %s. Remove them or link them elsewhere first."
                                .formatted(many, table, column));
    }

    private LinkedTo(String sentence) {
        super(sentence);
        this.sentence = sentence;
    }

    /** Of an adopted table, to which one leads that Weft does not know. */
    static LinkedTo elsewhere(String table) {
        return new LinkedTo("Rows of %s lead to this record, and are not Weft's. They keep it from being removed."
                .formatted(table));
    }

    static LinkedTo justNow() {
        return new LinkedTo("A record that was just saved links to this one. Look at it first.");
    }

    /** What links to it, and what can be done. */
    public String sentence() {
        return sentence;
    }
}
