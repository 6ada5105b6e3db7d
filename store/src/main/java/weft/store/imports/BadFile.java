package weft.store.imports;

/** A file can't be brought in; the message is a sentence for the person who brought it. Nothing of it is kept. */
public final class BadFile extends RuntimeException {

    BadFile(String sentence) {
        super(sentence);
    }
}
