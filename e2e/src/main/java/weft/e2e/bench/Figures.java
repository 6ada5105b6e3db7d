package weft.e2e.bench;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** Prints and sums up what was measured. */
final class Figures {

    private Figures() {}

    static void heading(String text) {
        System.out.printf("%n%s%n%s%n", text, "-".repeat(text.length()));
    }

    static void line(String format, Object... values) {
        System.out.printf(Locale.ENGLISH, format + "%n", values);
    }

    static double median(List<Double> figures) {
        return percentile(figures.stream().mapToDouble(Double::doubleValue).toArray(), 50);
    }

    static double percentile(double[] figures, int percent) {
        var sorted = figures.clone();
        Arrays.sort(sorted);
        return sorted[Math.min(sorted.length - 1, (int) Math.ceil(sorted.length * percent / 100.0) - 1)];
    }
}
