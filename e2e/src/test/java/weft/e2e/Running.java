package weft.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.TestInstanceFactoryContext;
import org.junit.jupiter.api.extension.TestInstancePreConstructCallback;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** One Weft and one browser for all stories of a run; the pages of a story are closed with it, those of a class with that. */
public final class Running
        implements BeforeAllCallback, TestInstancePreConstructCallback, AfterEachCallback, AfterAllCallback {

    /** How long a story waits for what it says will come; a busy machine may be slow. */
    private static final double SLOWEST_MS = 30_000;

    private static LocalWeft weft;
    private static Started started;
    private static Chromium chromium;
    /** How many pages are the class's own. */
    private static int shared;

    /** A keyer's new page. */
    public static Page page() {
        return chromium.page(weft.url());
    }

    static Chromium chromium() {
        return chromium;
    }

    static String url() {
        return weft.url();
    }

    /** Asks the API, beside the browser: a GET, or a POST of this body. */
    static JsonNode api(String path, String... body) {
        var request = request(path);
        return answer(body.length > 0 ? request.POST(BodyPublishers.ofString(body[0])) : request);
    }

    /** Posts by somebody else, who has that session. */
    static JsonNode as(String session, String path, String body) {
        return answer(Signed.request(weft.url(), path, session)
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString(body)));
    }

    /** Puts something, in place of the version that was seen when one is named. */
    static JsonNode put(String path, String body, String seen) {
        var request = request(path).PUT(BodyPublishers.ofString(body));
        return answer(seen.isEmpty() ? request : request.header("If-Match", seen));
    }

    /** Deletes something. */
    static void delete(String path) {
        try (var client = HttpClient.newHttpClient()) {
            client.send(request(path).DELETE().build(), BodyHandlers.discarding());
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    private static HttpRequest.Builder request(String path) {
        return Signed.request(weft.url(), path).header("Content-Type", "application/json");
    }

    private static JsonNode answer(HttpRequest.Builder request) {
        try (var client = HttpClient.newHttpClient()) {
            return JsonMapper.shared()
                    .readTree(client.send(request.build(), BodyHandlers.ofString())
                            .body());
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    /** Another program of that name, at work in the database itself. */
    static Connection program(String name) throws SQLException {
        var postgres = weft.running().postgres().orElseThrow();
        return DriverManager.getConnection(
                postgres.url() + "?ApplicationName=" + name, postgres.user(), postgres.password());
    }

    /** Makes a table of these columns, in JSON, and its form. */
    static void form(String table, String columns) {
        api("/api/tables", "{\"name\":\"" + table + "\",\"title\":\"" + table + "\",\"columns\":[" + columns + "]}");
        api("/api/forms", "{\"table\":\"" + table + "\"}");
    }

    @Override
    public void beforeAll(ExtensionContext context) {
        start();
    }

    @Override
    public void preConstructTestInstance(TestInstanceFactoryContext factory, ExtensionContext context) {
        shared = chromium.open();
    }

    @Override
    public void afterEach(ExtensionContext context) {
        chromium.closeAllBut(shared);
    }

    @Override
    public void afterAll(ExtensionContext context) {
        chromium.closeAllBut(0);
    }

    /** Once for all classes of a process, until that ends: classes run in several processes beside each other. */
    private static synchronized void start() {
        if (started == null) {
            started = new Started();
            Runtime.getRuntime().addShutdownHook(new Thread(started::close));
        }
    }

    private static final class Started implements AutoCloseable {
        Started() {
            weft = new LocalWeft(true, "fsync=off");
            chromium = new Chromium();
            PlaywrightAssertions.setDefaultAssertionTimeout(SLOWEST_MS);
        }

        @Override
        public void close() {
            chromium.close();
            weft.close();
        }
    }
}
