package weft.server.http;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** What the documents name is there. */
class DocumentsTest {

    private static final Pattern ADDRESS = Pattern.compile("/api/[A-Za-z0-9{}/._-]*[A-Za-z0-9}]");
    private static final Pattern LINK = Pattern.compile("\\]\\(([^)#:]+)(#[^)]*)?\\)");

    private static Stream<Path> documents() throws IOException {
        try (var files = Files.list(Path.of("../docs"))) {
            return Stream.concat(
                    Stream.of(Path.of("../README.md")),
                    files.filter(file -> file.toString().endsWith(".md")).toList().stream());
        }
    }

    /** An address whose parts are called otherwise in a document is the same one. */
    private static String shape(String address) {
        return address.replaceAll("\\{[^}]*\\}", "{}");
    }

    @Test
    void everyAddressInThemIsOneOfTheApi() throws IOException {
        var api = JsonMapper.shared().readTree(Files.readString(Path.of("../web/openapi.json")));
        var there = api.get("paths").propertyNames().stream()
                .map(DocumentsTest::shape)
                .collect(Collectors.toSet());
        var missing = new TreeSet<String>();
        for (var document : documents().toList()) {
            ADDRESS.matcher(Files.readString(document)).results().forEach(found -> {
                // Examples name a form, a door or a record where the description has a part of the address.
                var pattern = Pattern.compile(shape(found.group()).replace("{}", "[^/]+"));
                if (there.stream()
                        .noneMatch(each -> pattern.matcher(each).matches()
                                || found.group().matches(each.replace("{}", "[^/]+"))
                                || each.startsWith(shape(found.group()) + "/"))) {
                    missing.add(document.getFileName() + ": " + found.group());
                }
            });
        }
        assertThat(missing).isEmpty();
    }

    @Test
    void everyLinkInThemLeadsToAFile() throws IOException {
        var missing = new ArrayList<String>();
        for (var document : documents().toList()) {
            LINK.matcher(Files.readString(document)).results().forEach(found -> {
                if (!Files.exists(document.resolveSibling(found.group(1)))) {
                    missing.add(document.getFileName() + ": " + found.group(1));
                }
            });
        }
        assertThat(missing).isEmpty();
    }
}
