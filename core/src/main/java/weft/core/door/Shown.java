package weft.core.door;

/**
 * Something as whoever asks may see it. What is answered is made of nothing else: a {@link Narrowing} makes it of what comes by
 * a door, and what is whole says so.
 */
public final class Shown<T> {

    private final T it;

    Shown(T it) {
        this.it = it;
    }

    /** To builders, at the Bench and at tables, who see all of it; or of what holds nothing that a door could leave out. */
    public static <T> Shown<T> whole(T it) {
        return new Shown<>(it);
    }

    /** What they see. */
    public T it() {
        return it;
    }
}
