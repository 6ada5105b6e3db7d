package weft.store;

import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;

/** Long work of which only so much is done at once, so that it never takes what entries need. Others wait for their turn. */
public final class Turns {

    private final Semaphore free;
    private final long waitSeconds;
    private final String sentence;

    /**
     * Turns of which so many are had at once.
     *
     * @param waitSeconds how long one waits for a turn
     * @param sentence what is said to who waited in vain
     */
    public Turns(int atOnce, long waitSeconds, String sentence) {
        this.free = new Semaphore(atOnce, true);
        this.waitSeconds = waitSeconds;
        this.sentence = sentence;
    }

    /**
     * Does the work when it is its turn.
     *
     * @throws Busy when its turn does not come
     */
    public <T> T take(Supplier<T> work) {
        try {
            if (!free.tryAcquire(waitSeconds, TimeUnit.SECONDS)) {
                throw new Busy(sentence);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new Busy(sentence);
        }
        try {
            return work.get();
        } finally {
            free.release();
        }
    }
}
