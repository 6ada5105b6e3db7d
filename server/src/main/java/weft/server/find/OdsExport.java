package weft.server.find;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.stream.IntStream;
import java.util.zip.CRC32;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.store.form.ShownForm;

/**
 * A spreadsheet of the open document format (ISO/IEC 26300): one sheet, its headings frozen, each cell of its own type. It is
 * written as it goes, a record at a time.
 */
final class OdsExport implements Export {

    private static final String KIND = "application/vnd.oasis.opendocument.spreadsheet";
    private static final String SPACES = """
            xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" \
            xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" \
            xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" \
            xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0" \
            xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" \
            xmlns:number="urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0" \
            xmlns:config="urn:oasis:names:tc:opendocument:xmlns:config:1.0" \
            xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" \
            xmlns:ooo="http://openoffice.org/2004/office" office:version="1.3\"""";
    private static final int MOST_DECIMALS = 15;

    private final ZipOutputStream zip;
    private final XMLStreamWriter xml;
    private final List<Column> columns;

    /** Begins the file with a line of the form's headings. */
    OdsExport(OutputStream out, ShownForm form, List<Column> columns) throws IOException {
        this.zip = new ZipOutputStream(new BufferedOutputStream(out));
        this.columns = columns;
        var sheet = form.form()
                .title()
                .replaceAll("[\\[\\]*?:/\\\\'\\p{Cntrl}]", " ")
                .strip();
        stored("mimetype", KIND);
        part("META-INF/manifest.xml", """
                <manifest:manifest %s><manifest:file-entry manifest:full-path="/" manifest:media-type="%s"/>\
                <manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>\
                <manifest:file-entry manifest:full-path="settings.xml" manifest:media-type="text/xml"/></manifest:manifest>""".formatted(SPACES.replace("office:version", "manifest:version"), KIND));
        part("settings.xml", settings(sheet));
        zip.putNextEntry(new ZipEntry("content.xml"));
        zip.write(("<?xml version=\"1.0\" encoding=\"UTF-8\"?><office:document-content " + SPACES + ">" + styles()
                        + "<office:body><office:spreadsheet>")
                .getBytes(StandardCharsets.UTF_8));
        try {
            this.xml = XMLOutputFactory.newDefaultFactory().createXMLStreamWriter(zip, "UTF-8");
            xml.writeStartElement("table:table");
            xml.writeAttribute("table:name", sheet.isEmpty() ? "Records" : sheet);
            xml.writeStartElement("table:table-header-rows");
            xml.writeStartElement("table:table-row");
            heading("Row");
            for (var column : columns) {
                heading(form.label(column));
            }
            xml.writeEndElement();
            xml.writeEndElement();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    private void stored(String name, String text) throws IOException {
        var bytes = text.getBytes(StandardCharsets.UTF_8);
        var crc = new CRC32();
        crc.update(bytes);
        var entry = new ZipEntry(name);
        entry.setMethod(ZipEntry.STORED);
        entry.setSize(bytes.length);
        entry.setCrc(crc.getValue());
        zip.putNextEntry(entry);
        zip.write(bytes);
        zip.closeEntry();
    }

    private void part(String name, String text) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(("<?xml version=\"1.0\" encoding=\"UTF-8\"?>" + text).getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
    }

    /** The first line stays where it is while one scrolls. */
    private static String settings(String sheet) {
        var item = "<config:config-item config:name=\"%s\" config:type=\"%s\">%s</config:config-item>";
        return "<office:document-settings " + SPACES + "><office:settings>"
                + "<config:config-item-set config:name=\"ooo:view-settings\"><config:config-item-map-indexed config:name=\"Views\">"
                + "<config:config-item-map-entry><config:config-item-map-named config:name=\"Tables\">"
                + "<config:config-item-map-entry config:name=\""
                + sheet.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;") + "\">"
                + item.formatted("VerticalSplitMode", "short", 2)
                + item.formatted("VerticalSplitPosition", "int", 1)
                + item.formatted("ActiveSplitRange", "short", 2)
                + item.formatted("PositionBottom", "int", 1)
                + "</config:config-item-map-entry></config:config-item-map-named></config:config-item-map-entry>"
                + "</config:config-item-map-indexed></config:config-item-set></office:settings></office:document-settings>";
    }

    /** How each kind of cell is shown: decimals with as many places as their column has, dates and times as ISO 8601 spells them. */
    private static String styles() {
        var decimals = new StringBuilder();
        IntStream.rangeClosed(0, MOST_DECIMALS).forEach(places -> decimals.append("""
                        <number:number-style style:name="N%1$d"><number:number number:decimal-places="%1$d" number:min-decimal-places="%1$d" \
                        number:min-integer-digits="1"/></number:number-style>\
                        <style:style style:name="d%1$d" style:family="table-cell" style:data-style-name="N%1$d"/>""".formatted(places)));
        var date =
                "<number:year number:style=\"long\"/><number:text>-</number:text><number:month number:style=\"long\"/>"
                        + "<number:text>-</number:text><number:day number:style=\"long\"/>";
        var time =
                "<number:hours number:style=\"long\"/><number:text>:</number:text><number:minutes number:style=\"long\"/>";
        return "<office:automatic-styles>" + decimals
                + "<number:date-style style:name=\"ND\">" + date + "</number:date-style>"
                + "<number:date-style style:name=\"NM\">" + date + "<number:text> </number:text>" + time
                + "</number:date-style>"
                + "<number:time-style style:name=\"NT\">" + time + "</number:time-style>"
                + "<style:style style:name=\"date\" style:family=\"table-cell\" style:data-style-name=\"ND\"/>"
                + "<style:style style:name=\"moment\" style:family=\"table-cell\" style:data-style-name=\"NM\"/>"
                + "<style:style style:name=\"time\" style:family=\"table-cell\" style:data-style-name=\"NT\"/>"
                + "<style:style style:name=\"heading\" style:family=\"table-cell\"><style:text-properties fo:font-weight=\"bold\"/></style:style>"
                + "</office:automatic-styles>";
    }

    private void heading(String text) throws XMLStreamException {
        cell("string", "heading", "", "", text);
    }

    @Override
    public void write(StoredRow record) {
        try {
            xml.writeStartElement("table:table-row");
            cell("float", "", "value", Long.toString(record.row()), Long.toString(record.row()));
            for (var column : columns) {
                cell(column, record.of(column.name()));
            }
            xml.writeEndElement();
        } catch (XMLStreamException e) {
            throw new UncheckedIOException(new IOException(e));
        }
    }

    private void cell(Column column, Value value) throws XMLStreamException {
        switch (value) {
            case Value.Empty _ -> xml.writeEmptyElement("table:table-cell");
            case Value.Whole _ -> cell("float", "", "value", value.plain(), value.plain());
            case Value.Decimal _ -> cell("float", style(column), "value", value.plain(), value.plain());
            case Value.YesNo(boolean yes) ->
                cell("boolean", "", "boolean-value", Boolean.toString(yes), yes ? "yes" : "no");
            case Value.Day _ -> cell("date", "date", "date-value", value.plain(), value.plain());
            case Value.Moment(var at) ->
                cell("date", "moment", "date-value", DateTimeFormatter.ISO_LOCAL_DATE_TIME.format(at), value.plain());
            case Value.Hour(var at) ->
                cell(
                        "time",
                        "time",
                        "time-value",
                        DateTimeFormatter.ofPattern("'PT'HH'H'mm'M'ss").format(at)
                                + (at.getNano() == 0
                                        ? ""
                                        : ("." + "%09d".formatted(at.getNano())).replaceAll("0+$", ""))
                                + "S",
                        value.plain());
            case Value.Text _, Value.Link _, Value.Image _ -> cell("string", "", "", "", value.plain());
        }
    }

    private static String style(Column column) {
        return column.type() == ColumnType.DECIMAL
                        && column.scale().isPresent()
                        && column.scale().getAsInt() <= MOST_DECIMALS
                ? "d" + column.scale().getAsInt()
                : "";
    }

    private void cell(String type, String style, String attribute, String value, String shown)
            throws XMLStreamException {
        xml.writeStartElement("table:table-cell");
        xml.writeAttribute("office:value-type", type);
        if (!style.isEmpty()) {
            xml.writeAttribute("table:style-name", style);
        }
        if (!attribute.isEmpty()) {
            xml.writeAttribute("office:" + attribute, value);
        }
        for (var line : shown.split("\r\n|\n|\r", -1)) {
            xml.writeStartElement("text:p");
            words(line);
            xml.writeEndElement();
        }
        xml.writeEndElement();
    }

    /** XML would take several blanks for one, and holds no other control characters. */
    private void words(String line) throws XMLStreamException {
        var plain = new StringBuilder();
        for (int at = 0; at < line.length(); at++) {
            char c = line.charAt(at);
            if (c == '\t' || (c == ' ' && (at == 0 || at == line.length() - 1 || line.charAt(at - 1) == ' '))) {
                xml.writeCharacters(plain.toString());
                plain.setLength(0);
                xml.writeEmptyElement(c == '\t' ? "text:tab" : "text:s");
            } else {
                plain.append(c < ' ' || c == '\uFFFE' || c == '\uFFFF' ? '\uFFFD' : c);
            }
        }
        xml.writeCharacters(plain.toString());
    }

    @Override
    public void close() throws IOException {
        try {
            xml.writeEndElement();
            xml.flush();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
        zip.write("</office:spreadsheet></office:body></office:document-content>".getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
        zip.close();
    }
}
