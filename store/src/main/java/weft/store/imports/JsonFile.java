package weft.store.imports;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.TreeNode;
import tools.jackson.core.exc.UnexpectedEndOfInputException;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.TableProposal;

/**
 * JSON (RFC 8259): an array of objects, or an object a line. Its members are the columns, in the order in which they come up;
 * a row is known by the number of its object.
 */
record JsonFile() implements RowFile {

    private static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .build();

    /** Whether a file that begins so is JSON. */
    static boolean begins(String text) {
        return text.matches("(?s)\\uFEFF?\\s*(\\[\\s*[{\\]]|\\{\\s*[\"}]).*");
    }

    @Override
    public boolean typed() {
        return true;
    }

    @Override
    public void read(Bytes bytes, RowTaker taker) throws IOException {
        var headings = new LinkedHashSet<String>();
        each(bytes, object -> {
            headings.addAll(object.keySet());
            if (headings.size() > TableProposal.MOST_COLUMNS) {
                throw new BadFile("The objects have more than " + TableProposal.MOST_COLUMNS
                        + " different members; a table can have so many columns at most.");
            }
        });
        if (headings.isEmpty()) {
            return;
        }
        taker.take(new Row(0, List.copyOf(headings)));
        long[] row = {0};
        var failed = new IOException[1];
        each(bytes, object -> {
            var cells = new ArrayList<String>();
            headings.forEach(heading -> cells.add(object.getOrDefault(heading, "")));
            var next = new Row(++row[0], cells);
            if (!next.blank() && failed[0] == null) {
                try {
                    taker.take(next);
                } catch (IOException e) {
                    failed[0] = e;
                }
            }
        });
        if (failed[0] != null) {
            throw failed[0];
        }
    }

    private static void each(Bytes bytes, Consumer<Map<String, String>> taker) throws IOException {
        try (var in = bytes.open();
                var json = JSON.createParser(in)) {
            var token = json.nextToken();
            boolean array = token == JsonToken.START_ARRAY;
            if (array) {
                token = json.nextToken();
            }
            long number = 0;
            while (token != null && !(array && token == JsonToken.END_ARRAY)) {
                number++;
                if (token != JsonToken.START_OBJECT) {
                    throw new BadFile(
                            "Each row of a JSON file is an object, such as {\"name\": \"Ada\"}. Number %,d is none."
                                    .formatted(number));
                }
                taker.accept(object(json));
                token = json.nextToken();
            }
        } catch (UnexpectedEndOfInputException e) {
            throw new BadFile(
                    "The file ends in the middle of a row, or of its list. It was cut off; bring the whole of it in.");
        } catch (JacksonException e) {
            var at = e.getLocation();
            throw new BadFile(
                    "The file can't be read as JSON%s. Look for a comma, a quotation mark or a bracket that is missing there, or a member that stands twice."
                            .formatted(
                                    at == null
                                            ? ""
                                            : " on line %,d, at character %,d"
                                                    .formatted(at.getLineNr(), at.getColumnNr())));
        }
    }

    private static Map<String, String> object(JsonParser json) {
        var members = new LinkedHashMap<String, String>();
        while (json.nextToken() != JsonToken.END_OBJECT) {
            var name = json.currentName();
            members.put(
                    name,
                    switch (json.nextToken()) {
                        case VALUE_NULL -> "";
                        case VALUE_TRUE -> "yes";
                        case VALUE_FALSE -> "no";
                        case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> CellText.number(json.getString());
                        case START_OBJECT, START_ARRAY -> structure(json.readValueAsTree());
                        default -> json.getString();
                    });
        }
        return members;
    }

    /** A link as exports have it is what its record is called, with its row, so that it leads there again; else as it is spelled. */
    private static String structure(TreeNode tree) {
        return tree instanceof JsonNode node
                        && node.path("shown").isString()
                        && node.path("row").isIntegralNumber()
                ? node.get("shown").asString() + " (row " + node.get("row").asLong() + ")"
                : tree.toString();
    }
}
