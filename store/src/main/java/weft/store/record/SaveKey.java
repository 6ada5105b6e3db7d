package weft.store.record;

/**
 * What makes a save that is sent twice be done once.
 *
 * @param key chosen by the sender, the same for the same save
 * @param bodyHash of what is to be saved, to tell a repeated save from another one under the same key
 */
public record SaveKey(String key, byte[] bodyHash) {

    /** The longest key taken. */
    public static final int LONGEST = 200;

    /** The key of one line of a batch that was sent under this one, counted from 1. */
    public SaveKey ofLine(int line) {
        return new SaveKey(key + " line " + line, bodyHash);
    }
}
