package weft.e2e.pictures;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.spi.ToolProvider;

/**
 * Draws the modules and packages of the house as they are compiled, and the folders of the pages: jdeps and the imports tell
 * which uses which, Graphviz draws it. An arrow that others imply is left out ({@code tred}), and what is generated is too.
 */
public final class House {

    private static final Map<String, String> MODULES =
            new TreeMap<>(Map.of("core", "#dfeae2", "store", "#e7e2ee", "server", "#f5e9d2", "web", "#e3ecf4"));
    private static final String PAGES = "web";
    private static final Pattern IMPORT = Pattern.compile("(?:from|import)\\s*\\(?\\s*\"(\\.[^\"]+)\"");
    private static final Pattern ARROW =
            Pattern.compile("^\\s+weft\\.(\\S+)\\s+-> weft\\.(\\S+)\\s.*", Pattern.MULTILINE);

    private House() {}

    /** Writes {@code docs/house.svg}. */
    public static void main(String... args) throws IOException, InterruptedException {
        var svg = Path.of("docs/house.svg");
        var reduced = run(arrows(), "tred");
        Files.writeString(svg, run(drawn(reduced), "dot", "-Tsvg"));
        System.out.println(svg);
    }

    /** Which package uses which, in Graphviz's language. */
    private static String arrows() throws IOException {
        var told = new StringWriter();
        var classes = MODULES.keySet().stream()
                .filter(module -> !module.equals(PAGES))
                .map(module -> module + "/target/classes")
                .toList();
        var arguments = new ArrayList<>(List.of("--ignore-missing-deps", "-verbose:package", "-filter:none"));
        arguments.addAll(classes);
        var writer = new PrintWriter(told);
        ToolProvider.findFirst("jdeps").orElseThrow().run(writer, writer, arguments.toArray(String[]::new));
        var edges = new TreeSet<String>();
        ARROW.matcher(told.toString()).results().forEach(arrow -> {
            if (!arrow.group(1).equals(arrow.group(2)) && !(arrow.group(1) + arrow.group(2)).contains("store.schema")) {
                edges.add("\"%s\" -> \"%s\";".formatted(arrow.group(1), arrow.group(2)));
            }
        });
        edges.addAll(pages());
        return "digraph house {\n" + String.join("\n", edges) + "\n}\n";
    }

    /** Which folder of the pages imports from which. */
    private static Set<String> pages() throws IOException {
        var source = Path.of(PAGES, "src");
        var edges = new TreeSet<String>();
        try (var files = Files.walk(source)) {
            for (var file : files.filter(each -> each.toString().matches("(?!.*/testing/).*(?<!\\.test|\\.d)\\.tsx?"))
                    .toList()) {
                var from = source.relativize(file);
                for (var found :
                        IMPORT.matcher(Files.readString(file)).results().toList()) {
                    var to = source.relativize(
                            file.resolveSibling(found.group(1)).normalize());
                    if (from.getNameCount() > 1
                            && to.getNameCount() > 1
                            && !from.getName(0).equals(to.getName(0))) {
                        edges.add("\"%s.%s\" -> \"%s.%s\";".formatted(PAGES, from.getName(0), PAGES, to.getName(0)));
                    }
                }
            }
        }
        return edges;
    }

    /** The same with a frame around each module. */
    private static String drawn(String reduced) {
        var packages = new TreeSet<String>();
        // Names without a dot are written without quotes.
        Pattern.compile("\"?([a-z.]+)\"? -> \"?([a-z.]+)\"?")
                .matcher(reduced)
                .results()
                .forEach(arrow -> {
                    packages.add(arrow.group(1));
                    packages.add(arrow.group(2));
                });
        var frames = new StringBuilder();
        MODULES.forEach((module, colour) -> {
            frames.append("subgraph cluster_%s { label=\"%s\"; style=\"rounded,filled\"; color=\"%s\"; fontsize=16;\n"
                    .formatted(module, module, colour));
            packages.stream()
                    .filter(each -> each.equals(module) || each.startsWith(module + "."))
                    .forEach(each -> frames.append("\"%s\" [label=\"%s\"];\n"
                            .formatted(each, each.equals(module) ? module : each.substring(module.length() + 1))));
            frames.append("}\n");
        });
        return reduced.replaceFirst(
                "\\{", """
                {
                graph [rankdir=TB, nodesep=0.18, ranksep=0.42, fontname="Helvetica", bgcolor="#fbf8f1", pad=0.3];
                node [shape=box, style="rounded,filled", fillcolor="#fffdf8", color="#8a8577", fontname="Helvetica", fontsize=12, height=0.32, margin="0.12,0.04"];
                edge [color="#6d6a86", arrowsize=0.55, penwidth=0.8];
                """ + frames.toString().replace("\\", "\\\\").replace("$", "\\$"));
    }

    private static String run(String input, String... command) throws IOException, InterruptedException {
        var process = new ProcessBuilder(command)
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        try (var to = process.outputWriter()) {
            to.write(input);
        }
        var output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        if (process.waitFor() != 0) {
            throw new IOException(command[0] + " failed");
        }
        return output;
    }
}
