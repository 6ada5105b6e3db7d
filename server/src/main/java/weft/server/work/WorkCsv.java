package weft.server.work;

import de.siegmar.fastcsv.writer.CsvWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import weft.core.value.SpreadsheetGuard;
import weft.server.work.WorkJson.ShareJson;

/** Figures as CSV (RFC 4180): of what, about what, which figure, how much, and of how many where it is a share. */
final class WorkCsv {

    private final CsvWriter csv;

    private WorkCsv(CsvWriter csv) {
        this.csv = csv;
    }

    static void write(WorkJson work, OutputStream out) throws IOException {
        try (var csv = CsvWriter.builder().build(new OutputStreamWriter(out, StandardCharsets.UTF_8))) {
            csv.writeRecord("Of", "About", "Figure", "Value", "Of how many");
            new WorkCsv(csv).all(work);
        }
    }

    private void all(WorkJson work) {
        var whole = work.whole();
        var time = work.from() + " to " + work.to();
        line("all", time, "entries", whole.entries());
        line("all", time, "keyed twice", whole.twice());
        line("all", time, "people", whole.people());
        seconds("all", time, whole.median(), whole.slowest());
        share("all", time, "stopped or asked", whole.hindered());
        share("all", time, "fields that differed", whole.differed());
        share("all", time, "corrected within a week", whole.corrected());
        line("all", time, "keys pressed", whole.keys());
        line("all", time, "fewest keys", whole.least());
        work.days().forEach(day -> {
            line("day", day.day(), "entries", day.once());
            line("day", day.day(), "keyed twice", day.twice());
        });
        work.hours().forEach(hour -> {
            var name = "%02d:00".formatted(hour.hour());
            line("hour", name, "entries", hour.once());
            line("hour", name, "keyed twice", hour.twice());
        });
        work.fields().forEach(field -> {
            seconds("field", field.label(), field.median(), field.slowest());
            line("field", field.label(), "stops", field.stops());
            line("field", field.label(), "asks", field.asks());
            line("field", field.label(), "saved all the same", field.despite());
            line("field", field.label(), "typed again after a stop", field.again());
            line("field", field.label(), "gone back from", field.back());
            share("field", field.label(), "corrected within a week", field.corrected());
            share("field", field.label(), "differed", field.differed());
        });
        work.rules().forEach(rule -> {
            line("rule", rule.words(), "stops", rule.stops());
            line("rule", rule.words(), "asks", rule.asks());
            line("rule", rule.words(), "saved all the same", rule.despite());
        });
        work.persons().forEach(person -> {
            line("person", person.title(), "entries", person.entries());
            line("person", person.title(), "keyed twice", person.twice());
            if (person.anHour() != null) {
                write("person", person.title(), "an hour", number(person.anHour()), "");
            }
            line("person", person.title(), "stops", person.stops());
            line("person", person.title(), "asks", person.asks());
            share("person", person.title(), "fields that differed", person.differed());
        });
    }

    private void line(String of, String about, String figure, long value) {
        write(of, about, figure, Long.toString(value), "");
    }

    private void seconds(String of, String about, @Nullable Double median, @Nullable Double slowest) {
        if (median != null) {
            write(of, about, "seconds, median", number(median), "");
        }
        if (slowest != null) {
            write(of, about, "seconds, nine of ten", number(slowest), "");
        }
    }

    private void share(String of, String about, String figure, ShareJson share) {
        write(of, about, figure, Long.toString(share.times()), Long.toString(share.of()));
    }

    private static String number(double value) {
        return String.format(Locale.ROOT, "%.1f", value);
    }

    private void write(String of, String about, String figure, String value, String ofHowMany) {
        csv.writeRecord(of, SpreadsheetGuard.guarded(about), figure, value, ofHowMany);
    }
}
