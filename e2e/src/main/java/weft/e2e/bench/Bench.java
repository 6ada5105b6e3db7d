package weft.e2e.bench;

import java.util.Set;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;

/** Runs the benchmarks named, or all of them. */
public final class Bench {

    private Bench() {}

    /** {@code entry}, {@code doors}, {@code import}, {@code find}, {@code desk}, {@code bench}, {@code lines}, {@code rules}, {@code twice} and {@code alike}, or nothing for all. */
    public static void main(String... args) throws Exception {
        var wanted = args.length == 0
                ? Set.of("entry", "doors", "import", "find", "desk", "bench", "lines", "rules", "twice", "alike")
                : Set.of(args);
        try (var weft = new LocalWeft(true)) {
            if (wanted.contains("entry")) {
                EntryBench.run(weft);
            }
            if (wanted.contains("doors")) {
                DoorBench.run(weft);
            }
            if (wanted.contains("import")) {
                ImportBench.run(weft);
            }
            if (wanted.contains("find")) {
                FindBench.run(weft);
            }
            if (wanted.contains("rules")) {
                RulesBench.run(weft);
            }
            if (wanted.contains("alike")) {
                AlikeBench.run(weft);
            }
            if (wanted.contains("twice")) {
                TwiceBench.run(weft);
            }
            if (wanted.contains("lines")) {
                try (var chromium = new Chromium()) {
                    LinesBench.run(weft, chromium);
                }
            }
            if (wanted.contains("bench")) {
                try (var chromium = new Chromium()) {
                    BenchBench.run(weft, chromium);
                }
            }
            if (wanted.contains("desk")) {
                try (var chromium = new Chromium()) {
                    DeskBench.run(weft, chromium);
                }
            }
        }
    }
}
