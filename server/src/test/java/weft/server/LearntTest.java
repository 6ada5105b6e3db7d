package weft.server;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.boot.SpringApplicationAotProcessor;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A server that knows before it starts which parts it has is the same as one that finds them out, on one database. */
@ExtendWith(TestServer.class)
class LearntTest {

    private static final Pattern READY = Pattern.compile("ready: (\\S+)");
    private static final HttpClient CLIENT = HttpClient.newHttpClient();

    @TempDir
    static Path folder;

    private static Process server;
    private static String url = "";

    @BeforeAll
    static void learnt() throws Exception {
        var path = System.getProperty("java.class.path");
        var sources = folder.resolve("sources");
        var classes = folder.resolve("classes");
        var asked = java(
                path,
                SpringApplicationAotProcessor.class.getName(),
                Server.class.getName(),
                sources.toString(),
                classes.toString(),
                classes.toString(),
                "weft",
                "weft-server");
        assertThat(asked.start().waitFor()).as(said()).isZero();
        var options = new ArrayList<>(List.of("-nowarn", "-proc:none", "-cp", path, "-d", classes.toString()));
        try (var files = Files.walk(sources)) {
            files.map(Path::toString).filter(file -> file.endsWith(".java")).forEach(options::add);
        }
        var compiler = ToolProvider.getSystemJavaCompiler();
        assertThat(compiler.run(null, null, null, options.toArray(String[]::new)))
                .isZero();
        var starts = java(classes + System.getProperty("path.separator") + path, WeftServer.class.getName());
        starts.command().add(1, "-Dspring.aot.enabled=true");
        starts.command().add(1, "-Duser.timezone=" + ZoneId.systemDefault().getId());
        starts.command().addAll(List.of("--port", "0", "--empty"));
        var database = TestServer.database();
        starts.environment()
                .put(
                        "WEFT_DATABASE_URL",
                        database.url() + "?user=" + database.user() + "&password=" + database.password());
        server = starts.start();
        TestServer.await(() -> !server.isAlive() || ready().isPresent());
        url = ready().orElseThrow(() -> new AssertionError(said()));
    }

    @AfterAll
    static void stop() throws InterruptedException {
        if (server != null) {
            server.destroy();
            server.waitFor();
        }
    }

    private static ProcessBuilder java(String classPath, String main, String... arguments) {
        var command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin/java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                classPath,
                main));
        command.addAll(List.of(arguments));
        return new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("said").toFile());
    }

    private static String said() {
        try {
            return Files.readString(folder.resolve("said"));
        } catch (IOException e) {
            return e.toString();
        }
    }

    private static Optional<String> ready() {
        var found = READY.matcher(said());
        return found.find() ? Optional.of(found.group(1)) : Optional.empty();
    }

    private static HttpResponse<String> ask(String of, List<String> browser, String method, String path, String body)
            throws Exception {
        var request = HttpRequest.newBuilder(URI.create(of + path))
                .method(method, body.isEmpty() ? BodyPublishers.noBody() : BodyPublishers.ofString(body, UTF_8))
                .header("Content-Type", "application/json")
                .headers(browser.toArray(String[]::new));
        return CLIENT.send(request.build(), BodyHandlers.ofString());
    }

    private static JsonNode json(String of, String method, String path, String body) throws Exception {
        return JsonMapper.shared()
                .readTree(ask(of, TestServer.builder(), method, path, body).body());
    }

    @Test
    void itAnswersAllThatTheOtherDoes() throws Exception {
        var described = (ObjectNode) json(url, "GET", "/v3/api-docs", "");
        var other = (ObjectNode) json(TestServer.url(), "GET", "/v3/api-docs", "");
        described.remove("servers");
        other.remove("servers");
        assertThat(described.get("paths").size()).isGreaterThan(100);
        assertThat(described).isEqualTo(other);
        assertThat(measured(url)).isEqualTo(measured(TestServer.url()));
    }

    /** The names of what is measured of Weft itself. */
    private static TreeSet<String> measured(String of) throws Exception {
        return ask(of, TestServer.builder(), "GET", "/actuator/prometheus", "")
                .body()
                .lines()
                .filter(line -> line.startsWith("# TYPE weft_"))
                .map(line -> line.split(" ")[2])
                .collect(Collectors.toCollection(TreeSet::new));
    }

    @Test
    void whatIsWrittenByOneIsReadByTheOther() throws Exception {
        var form = TestServer.form(
                "learnt", "{\"title\":\"Site\",\"required\":true},{\"title\":\"Depth\",\"type\":\"whole\"}");
        var records = "/api/doors/" + form + "/records";
        assertThat(json(url, "POST", records, "{\"values\":{\"site\":\"QB-01\",\"depth\":\"7\"}}")
                        .at("/row")
                        .asInt())
                .isEqualTo(1);
        assertThat(json(TestServer.url(), "GET", records, "")
                        .at("/records/0/values/site")
                        .asString())
                .isEqualTo("QB-01");
        for (var body : List.of(
                "{\"values\":{\"depth\":\"7\"}}", "{\"values\":{\"site\":\"Q\",\"depth\":\"deep\"}}", "{", "[]")) {
            var answer = ask(url, TestServer.builder(), "POST", records, body);
            var other = ask(TestServer.url(), TestServer.builder(), "POST", records, body);
            assertThat(answer.statusCode())
                    .as(body)
                    .isEqualTo(other.statusCode())
                    .isBetween(400, 499);
            assertThat(answer.body()).as(body).isEqualTo(other.body());
        }
    }

    @Test
    void whoIsNotSignedInIsSentAwayAsByTheOther() throws Exception {
        for (var path :
                List.of("/api/tables", "/api/forms", "/api/session", "/actuator/health", "/actuator/env", "/")) {
            var answer = ask(url, Browser.NOBODY, "GET", path, "");
            var other = ask(TestServer.url(), Browser.NOBODY, "GET", path, "");
            assertThat(answer.statusCode()).as(path).isEqualTo(other.statusCode());
            assertThat(answer.body()).as(path).isEqualTo(other.body());
            assertThat(names(answer)).as(path).isEqualTo(names(other));
        }
    }

    private static TreeSet<String> names(HttpResponse<String> answer) {
        return answer.headers().map().keySet().stream()
                .map(name -> name.toLowerCase(Locale.ROOT))
                .collect(Collectors.toCollection(TreeSet::new));
    }
}
