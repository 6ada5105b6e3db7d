package weft.store.imports;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import java.io.FilterReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PushbackReader;
import java.io.Reader;
import java.nio.charset.Charset;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import weft.core.value.SpreadsheetGuard;

/**
 * How a file of comma-separated values is written: RFC 4180, with the separators and character sets that spreadsheets
 * also use.
 *
 * @param charset UTF-8, Windows-1252 or UTF-16
 * @param separator comma, semicolon or tab
 */
record CsvFile(Charset charset, char separator) implements RowFile {

    private static final char[] SEPARATORS = {',', ';', '\t'};
    /** A first line by which spreadsheets say how the rest is separated. */
    private static final Pattern NAMED =
            Pattern.compile("\uFEFF?sep=([,;\t])\\s*?(?:\r\n|\n|\r|$)", Pattern.CASE_INSENSITIVE);

    /** The separator that the file names in its first line, else the one that most of the first lines have most evenly; a
     * comma when there is none. */
    static char separatorOf(String beginning) {
        var named = NAMED.matcher(beginning);
        if (named.lookingAt()) {
            return named.group(1).charAt(0);
        }
        var lines = new HashMap<Character, int[]>();
        for (char separator : SEPARATORS) {
            lines.put(separator, counts(beginning, separator));
        }
        return lines.entrySet().stream()
                .filter(entry -> entry.getValue().length > 0 && entry.getValue()[0] > 0)
                .max((a, b) -> Double.compare(evenness(a.getValue()), evenness(b.getValue())))
                .map(Map.Entry::getKey)
                .orElse(',');
    }

    /** How often the separator stands outside quotes in each of the first lines. */
    private static int[] counts(String text, char separator) {
        var counts = new int[20];
        int line = 0;
        boolean quoted = false;
        for (int at = 0; at < text.length() && line < counts.length; at++) {
            char c = text.charAt(at);
            if (c == '"') {
                quoted = !quoted;
            } else if (!quoted && c == separator) {
                counts[line]++;
            } else if (!quoted && c == '\n' && at + 1 < text.length()) {
                line++;
            }
        }
        return Arrays.copyOf(counts, Math.min(line + 1, counts.length));
    }

    /** Larger the more lines have as many separators as the first, and the more of them there are. */
    private static double evenness(int[] counts) {
        long like = Arrays.stream(counts).filter(count -> count == counts[0]).count();
        return (double) like / counts.length * 100 + Math.min(counts[0], 50);
    }

    @Override
    public boolean typed() {
        return false;
    }

    @Override
    public void read(Bytes bytes, RowTaker taker) throws IOException {
        try (var in = bytes.open()) {
            read(in, taker);
        }
    }

    private void read(InputStream bytes, RowTaker taker) throws IOException {
        var text = new Watched(withoutMark(new InputStreamReader(bytes, charset)));
        CsvRecord last = null;
        try (var rows = CsvReader.builder()
                .fieldSeparator(separator)
                .skipEmptyLines(true)
                .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
                .missingFieldStrategy(FieldMismatchStrategy.IGNORE)
                .ofCsvRecord(text)) {
            for (CsvRecord record : rows) {
                last = record;
                if (record.getStartingLineNumber() == 1 && names(record)) {
                    continue;
                }
                var row = new Row(record.getStartingLineNumber(), bare(record.getFields()));
                if (!row.blank()) {
                    taker.take(row);
                }
            }
            refuseOpen(last, text);
        } catch (CsvParseException e) {
            throw new BadFile("The file can't be read as rows of cells: " + lowered(e)
                    + " Look for a quotation mark that is opened and not closed.");
        }
    }

    private boolean names(CsvRecord record) {
        return record.getField(0).equalsIgnoreCase("sep=")
                || (record.getFieldCount() == 1
                        && NAMED.matcher(record.getField(0)).matches());
    }

    /** A quotation mark that is never closed would take all that comes after it into one cell. */
    private static void refuseOpen(@Nullable CsvRecord last, Watched text) {
        if (last == null) {
            return;
        }
        var cell = last.getField(last.getFieldCount() - 1);
        if (text.last != '"' && (cell.indexOf('\n') >= 0 || cell.indexOf('\r') >= 0)) {
            throw new BadFile(
                    "A quotation mark in the row that begins on line %,d is opened and not closed, so that all after it would be one cell. Close it, or take it out."
                            .formatted(last.getStartingLineNumber()));
        }
    }

    /** The text as it is read, and the last character of it that is no line's end. */
    private static final class Watched extends FilterReader {
        private int last = -1;

        Watched(Reader text) {
            super(text);
        }

        @Override
        public int read(char[] into, int from, int most) throws IOException {
            int count = super.read(into, from, most);
            for (int at = from + count - 1; at >= from; at--) {
                if (into[at] != '\n' && into[at] != '\r') {
                    last = into[at];
                    break;
                }
            }
            return count;
        }
    }

    private static String lowered(CsvParseException e) {
        var message = e.getMessage() == null ? "quoting is broken" : e.getMessage();
        return message.substring(0, 1).toLowerCase(Locale.ROOT) + message.substring(1) + ".";
    }

    private static Reader withoutMark(Reader text) throws IOException {
        var reader = new PushbackReader(text);
        int first = reader.read();
        if (first != '\uFEFF' && first >= 0) {
            reader.unread(first);
        }
        return reader;
    }

    /** The cells without the apostrophes that an export puts before what a spreadsheet would run. */
    private static List<String> bare(List<String> cells) {
        return cells.stream().map(SpreadsheetGuard::bare).toList();
    }
}
