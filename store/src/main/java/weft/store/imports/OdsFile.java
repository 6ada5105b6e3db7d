package weft.store.imports;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;
import weft.core.table.TableProposal;
import weft.core.value.ColumnType;

/**
 * A sheet of a spreadsheet of the open document format (ISO/IEC 26300). Cells are read by the values that they keep, not by how
 * they are shown; merged cells have their value in the first of them.
 *
 * @param sheet its place among the sheets, from 0
 */
record OdsFile(int sheet) implements RowFile {

    /** A sheet, and how many of its rows are not blank, its headings among them. */
    record OdsSheet(String name, long rows) {}

    private static final String TABLE = "urn:oasis:names:tc:opendocument:xmlns:table:1.0";
    private static final String OFFICE = "urn:oasis:names:tc:opendocument:xmlns:office:1.0";
    private static final String TEXT = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";
    private static final String KIND = "application/vnd.oasis.opendocument.spreadsheet";

    private static final Pattern DAY = Pattern.compile("[0-9]{4}-[0-9]{2}-[0-9]{2}");

    private static final int LONGEST_CELL = 1_000_000;
    /** Twice as many rows as most programs let a sheet have. */
    private static final long MOST_ROWS = 2L << 20;
    /** A few bytes can stand for very many rows and cells that repeat. */
    private static final long MOST_CELLS = 40_000_000;
    /** So much is unpacked at most: a sheet of a million rows has some hundred megabytes. */
    private static final long MOST_UNPACKED = 8L << 30;

    private static final XMLInputFactory XML = factory();

    private static XMLInputFactory factory() {
        var factory = XMLInputFactory.newDefaultFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        return factory;
    }

    /** Whether a file that begins so is a packed one, of whatever kind. */
    static boolean packed(byte[] beginning) {
        return beginning.length > 3
                && beginning[0] == 'P'
                && beginning[1] == 'K'
                && beginning[2] == 3
                && beginning[3] == 4;
    }

    /**
     * Refuses what is packed and no spreadsheet of the format.
     *
     * @throws BadFile saying what would do
     */
    static void check(Bytes bytes) throws IOException {
        try (var zip = new ZipInputStream(bytes.open())) {
            for (var entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                if (entry.getName().equals("content.xml")
                        || (entry.getName().equals("mimetype")
                                && new String(zip.readNBytes(KIND.length()), StandardCharsets.US_ASCII).equals(KIND))) {
                    return;
                } else if (entry.getName().equals("mimetype")) {
                    break;
                }
            }
        } catch (ZipException e) {
            // It is no packed file after all, or a broken one.
        }
        throw new BadFile(
                "The file is packed, and no spreadsheet of the open document format. Save it as .ods or as .csv, and bring that in.");
    }

    /** The sheets of a file, in order. */
    static List<OdsSheet> sheets(Bytes bytes) throws IOException {
        var sheets = new ArrayList<OdsSheet>();
        document(bytes, xml -> {
            var name = xml.getAttributeValue(TABLE, "name");
            long[] rows = {0};
            new Cells(xml).rows(row -> rows[0]++, false);
            sheets.add(new OdsSheet(name == null ? "Sheet " + (sheets.size() + 1) : name, rows[0]));
        });
        return sheets;
    }

    @Override
    public boolean typed() {
        return true;
    }

    /** Many programs write a moment at midnight as its day alone. */
    @Override
    public String spelled(ColumnType type, String cell) {
        return type == ColumnType.DATETIME && DAY.matcher(cell).matches() ? cell + " 00:00" : cell;
    }

    @Override
    public void read(Bytes bytes, RowTaker taker) throws IOException {
        int[] at = {0};
        document(bytes, xml -> {
            if (at[0]++ == sheet) {
                new Cells(xml).rows(taker, true);
            } else {
                skip(xml);
            }
        });
    }

    /** What is done with a sheet, whose beginning the reader stands at; it is left at its end. */
    private interface SheetTaker {
        void take(XMLStreamReader xml) throws XMLStreamException, IOException;
    }

    private static void document(Bytes bytes, SheetTaker taker) throws IOException {
        try (var zip = new ZipInputStream(bytes.open())) {
            ZipEntry entry;
            do {
                entry = zip.getNextEntry();
            } while (entry != null && !entry.getName().equals("content.xml"));
            if (entry == null) {
                throw new BadFile("The file has no sheets in it. It may be cut off; bring the whole of it in.");
            }
            var xml = XML.createXMLStreamReader(new Bounded(zip));
            while (xml.hasNext()) {
                if (xml.next() == XMLStreamConstants.START_ELEMENT) {
                    if (is(xml, TABLE, "table")) {
                        taker.take(xml);
                    } else if (is(xml, TABLE, "tracked-changes")) {
                        skip(xml);
                    }
                }
            }
        } catch (XMLStreamException | ZipException e) {
            throw new BadFile(
                    "The file can't be read as a spreadsheet. It may be protected by a password, or cut off. Save it anew without a password, and bring that in.");
        }
    }

    private static boolean is(XMLStreamReader xml, String space, String name) {
        return name.equals(xml.getLocalName()) && space.equals(xml.getNamespaceURI());
    }

    /** Goes to the end of the element that the reader stands at. */
    private static void skip(XMLStreamReader xml) throws XMLStreamException {
        for (int depth = 1; depth > 0; ) {
            switch (xml.next()) {
                case XMLStreamConstants.START_ELEMENT -> depth++;
                case XMLStreamConstants.END_ELEMENT -> depth--;
                default -> {}
            }
        }
    }

    /** The cells of a sheet as they go by. */
    private static final class Cells {
        private final XMLStreamReader xml;
        private boolean merged;

        Cells(XMLStreamReader xml) {
            this.xml = xml;
        }

        /**
         * The rows up to the end of the sheet.
         *
         * @param headed whether the first is to be headings, each of one column
         */
        void rows(RowTaker taker, boolean headed) throws XMLStreamException, IOException {
            long line = 1;
            long taken = 0;
            long cells = 0;
            boolean first = headed;
            for (int event = xml.next();
                    !(event == XMLStreamConstants.END_ELEMENT && is(xml, TABLE, "table"));
                    event = xml.next()) {
                if (event == XMLStreamConstants.START_ELEMENT && is(xml, TABLE, "table-row")) {
                    int repeated = count("number-rows-repeated");
                    merged = false;
                    var row = new Row(line, row());
                    if (!row.blank()) {
                        if (first && merged) {
                            throw new BadFile(
                                    "In row %,d, where the headings are looked for, cells are merged. Give each column a heading in a cell of its own, above the rows."
                                            .formatted(line));
                        }
                        first = false;
                        taken += repeated;
                        cells += (long) repeated * row.cells().size();
                        if (taken > MOST_ROWS || cells > MOST_CELLS) {
                            throw new BadFile(
                                    "The sheet has more rows and cells than can be brought in, %,d and %,d. Save its rows as .csv in parts."
                                            .formatted(MOST_ROWS, MOST_CELLS));
                        }
                        for (int i = 0; i < repeated; i++) {
                            taker.take(new Row(line + i, row.cells()));
                        }
                    }
                    line += repeated;
                }
            }
        }

        private List<String> row() throws XMLStreamException {
            var cells = new ArrayList<String>();
            // Cells without anything, which count only when one with something follows.
            int empty = 0;
            for (int event = xml.next();
                    !(event == XMLStreamConstants.END_ELEMENT && is(xml, TABLE, "table-row"));
                    event = xml.next()) {
                if (event != XMLStreamConstants.START_ELEMENT) {
                    continue;
                }
                if (!is(xml, TABLE, "table-cell") && !is(xml, TABLE, "covered-table-cell")) {
                    skip(xml);
                    continue;
                }
                int repeated = count("number-columns-repeated");
                merged |= count("number-columns-spanned") > 1;
                var text = cell();
                if (text.isEmpty()) {
                    empty += repeated;
                    continue;
                }
                if (cells.size() + empty + repeated > 4 * TableProposal.MOST_COLUMNS) {
                    throw new BadFile("A row of the sheet has more than " + 4 * TableProposal.MOST_COLUMNS
                            + " cells; a table can have " + TableProposal.MOST_COLUMNS + " columns at most.");
                }
                for (; empty > 0; empty--) {
                    cells.add("");
                }
                for (int i = 0; i < repeated; i++) {
                    cells.add(text);
                }
            }
            return cells;
        }

        private int count(String attribute) {
            var given = xml.getAttributeValue(TABLE, attribute);
            return given != null && given.matches("[0-9]{1,8}") ? Math.max(1, Integer.parseInt(given)) : 1;
        }

        private String cell() throws XMLStreamException {
            var type = of("value-type");
            var number = of("value");
            var date = of("date-value");
            var time = of("time-value");
            var yes = of("boolean-value");
            var string = of("string-value");
            var shown = text();
            return switch (type == null ? "" : type) {
                case "float", "percentage", "currency" -> number == null ? shown : CellText.number(number);
                case "date" -> date == null ? shown : CellText.stamp(date);
                case "time" -> time == null ? shown : CellText.time(time, shown);
                case "boolean" -> yes == null ? shown : yes.equals("true") ? "yes" : "no";
                default -> string == null ? shown : string;
            };
        }

        private @Nullable String of(String attribute) {
            return xml.getAttributeValue(OFFICE, attribute);
        }

        /** The text of the cell that the reader stands at: its paragraphs, without notes and drawings. */
        private String text() throws XMLStreamException {
            var text = new StringBuilder();
            int depth = 1;
            int paragraphs = 0;
            while (depth > 0) {
                switch (xml.next()) {
                    case XMLStreamConstants.START_ELEMENT -> {
                        boolean ours = TEXT.equals(xml.getNamespaceURI())
                                && !xml.getLocalName().equals("note");
                        if (!ours) {
                            skip(xml);
                            continue;
                        }
                        depth++;
                        switch (xml.getLocalName()) {
                            case "p", "h" -> text.append(paragraphs++ > 0 ? "\n" : "");
                            case "s" -> text.repeat(' ', spaces());
                            case "tab" -> text.append('\t');
                            case "line-break" -> text.append('\n');
                            default -> {}
                        }
                    }
                    case XMLStreamConstants.END_ELEMENT -> depth--;
                    case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE -> {
                        if (depth > 1) {
                            text.append(xml.getText());
                        }
                    }
                    default -> {}
                }
                if (text.length() > LONGEST_CELL) {
                    throw new BadFile("A cell of the sheet has more than %,d characters.".formatted(LONGEST_CELL));
                }
            }
            return text.toString();
        }

        private int spaces() {
            var given = xml.getAttributeValue(TEXT, "c");
            return given != null && given.matches("[0-9]{1,5}") ? Integer.parseInt(given) : 1;
        }
    }

    /** Ends what would be unpacked without end. */
    private static final class Bounded extends FilterInputStream {
        private long read;

        Bounded(InputStream in) {
            super(in);
        }

        @Override
        public int read(byte[] into, int from, int most) throws IOException {
            int count = super.read(into, from, most);
            read += Math.max(0, count);
            if (read > MOST_UNPACKED) {
                throw new BadFile("The file unpacks to more than can be brought in. Save its rows as .csv in parts.");
            }
            return count;
        }
    }
}
