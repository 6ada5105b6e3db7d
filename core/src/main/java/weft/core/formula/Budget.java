package weft.core.formula;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * How long the formulas of one request may take, all of them together, on whatever threads they are worked out. What is
 * worked out shortly waits for nobody. What takes longer takes a turn first, of which there are few, so that others are
 * served meanwhile.
 */
public final class Budget {

    /** So long they may take before a turn is needed: far more than the formulas of an entry take. */
    private static final long SHORT = Duration.ofMillis(50).toNanos();
    /** So often it is looked whether anybody still waits. */
    private static final long GLANCE = Duration.ofMillis(100).toNanos();

    /** Of what nobody waits for in a request: each formula has its own time, and no more. */
    private static final Budget NONE = new Budget(Duration.ofDays(1_000), new Turns() {
        @Override
        public boolean take() {
            return true;
        }

        @Override
        public boolean left() {
            return false;
        }
    });

    private static final ScopedValue<Budget> CURRENT = ScopedValue.newInstance();
    private static final ScopedValue<Run> RUN = ScopedValue.newInstance();

    /** Where turns are had, and where it is known whether somebody waits for the answer. */
    public interface Turns {

        /** Waits for a turn, as long as can be borne; whether it came. It is had until the request ends. */
        boolean take();

        /** Whether nobody waits any more; asked by the thread that the budget was opened on. */
        boolean left();
    }

    /** Why nothing more is worked out. */
    public enum Why {
        /** All the time is used up. */
        SPENT,
        /** No turn came. */
        BUSY,
        /** Nobody waits for it any more. */
        LEFT
    }

    /** Nothing more is worked out for this request; nothing is written. */
    public static final class Exceeded extends RuntimeException {
        private final Why why;

        private Exceeded(Why why) {
            super(why.name(), null, false, false);
            this.why = why;
        }

        /** Why. */
        public Why why() {
            return why;
        }
    }

    private final long most;
    private final Turns turns;
    private final Thread owner = Thread.currentThread();
    private final AtomicLong spent = new AtomicLong();
    private final AtomicReference<@Nullable Why> end = new AtomicReference<>();
    private volatile boolean turn;
    private long glanced = System.nanoTime();

    private Budget(Duration most, Turns turns) {
        this.most = most.toNanos();
        this.turns = turns;
    }

    /** Does the work under a budget of its own. */
    public static <T, X extends Throwable> T of(Duration most, Turns turns, ScopedValue.CallableOp<T, X> work)
            throws X {
        return ScopedValue.where(CURRENT, new Budget(most, turns)).call(work);
    }

    /** The budget that this thread works under, to be kept for work on other threads. */
    public static Budget now() {
        return CURRENT.orElse(NONE);
    }

    /** Does the work under this budget, on whatever thread. */
    public <T> T within(Supplier<T> work) {
        return this == NONE ? work.get() : ScopedValue.where(CURRENT, this).call(work::get);
    }

    /**
     * Works one formula out.
     *
     * @throws Exceeded when nothing more is worked out for this request
     */
    static <T> T formula(Supplier<T> work) {
        var run = new Run(now());
        T answer;
        try {
            answer = ScopedValue.where(RUN, run).call(work::get);
        } finally {
            run.end();
        }
        run.goOn();
        return answer;
    }

    /** Whether the formula that is being worked out on this thread has had its time. */
    static boolean over() {
        return RUN.isBound() && RUN.get().over();
    }

    /** One formula on one thread. */
    private static final class Run {
        private final Budget budget;
        private long began = System.nanoTime();

        Run(Budget budget) {
            this.budget = budget;
            goOn();
        }

        void goOn() {
            var why = budget.end.get();
            if (why != null) {
                throw new Exceeded(why);
            }
        }

        boolean over() {
            long running = System.nanoTime() - began;
            if (running > Feel.TIME.toNanos()) {
                return true;
            }
            began += budget.waited(running);
            return budget.end.get() != null;
        }

        void end() {
            budget.spent.addAndGet(System.nanoTime() - began);
        }
    }

    /** Ends what takes too long, is in nobody's turn or waited for by nobody; for how long a turn was waited for. */
    private long waited(long running) {
        long all = spent.get() + running;
        if (all <= SHORT) {
            return 0;
        }
        if (all > most) {
            end.compareAndSet(null, Why.SPENT);
            return 0;
        }
        if (Thread.currentThread() == owner && System.nanoTime() - glanced > GLANCE) {
            glanced = System.nanoTime();
            if (turns.left()) {
                end.compareAndSet(null, Why.LEFT);
            }
        }
        return turn ? 0 : inTurn();
    }

    private synchronized long inTurn() {
        if (turn || end.get() != null) {
            return 0;
        }
        long from = System.nanoTime();
        turn = turns.take();
        if (!turn) {
            end.compareAndSet(null, Why.BUSY);
        }
        return System.nanoTime() - from;
    }
}
