package weft.core.find;

/** Leaves the reading of a criterion, from however deep, with a sentence for its writer. */
final class Unreadable extends RuntimeException {

    private final String sentence;

    Unreadable(String sentence) {
        super(sentence, null, false, false);
        this.sentence = sentence;
    }

    String sentence() {
        return sentence;
    }
}
