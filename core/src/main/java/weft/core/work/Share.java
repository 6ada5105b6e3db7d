package weft.core.work;

/**
 * How many of how many.
 *
 * @param times how many there were
 * @param of of how many
 */
public record Share(long times, long of) {

    /** Of a normal distribution so many standard deviations to each side hold 95 of a hundred. */
    private static final double Z = 1.959964;

    /** None of none. */
    public static final Share NONE = new Share(0, 0);

    /** The share itself, 0 to 1; 0 of none. */
    public double value() {
        return of == 0 ? 0 : (double) times / of;
    }

    /** The lower end of its 95 % interval, by Wilson (1927). */
    public double low() {
        return of == 0 ? 0 : Math.max(0, middle() - half());
    }

    /** The upper end of it. */
    public double high() {
        return of == 0 ? 1 : Math.min(1, middle() + half());
    }

    private double middle() {
        return (value() + Z * Z / (2 * of)) / (1 + Z * Z / of);
    }

    private double half() {
        return Z / (1 + Z * Z / of) * Math.sqrt(value() * (1 - value()) / of + Z * Z / (4.0 * of * of));
    }
}
