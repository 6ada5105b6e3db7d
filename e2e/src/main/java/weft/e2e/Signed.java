package weft.e2e;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Who is signed in at a Weft: the demo's builder, unless somebody else was let in. One session does for all that is sent. */
public final class Signed {

    private static final String BUILDER = "odile";
    private static final String PASSWORD = "river-watch";
    private static final Map<String, String> SESSIONS = new ConcurrentHashMap<>();

    private Signed() {}

    /** A request to that Weft by whoever is signed in there. */
    public static HttpRequest.Builder request(String url, String path) {
        return request(url, path, session(url));
    }

    /** A request by whoever has that session. */
    public static HttpRequest.Builder request(String url, String path, String session) {
        return HttpRequest.newBuilder(URI.create(url + path))
                .header("Cookie", "XSRF-TOKEN=x; SESSION=" + session)
                .header("X-XSRF-TOKEN", "x");
    }

    /** The session at that Weft. */
    public static String session(String url) {
        return SESSIONS.computeIfAbsent(url, _ -> in(url, BUILDER, PASSWORD));
    }

    /** Signs somebody in. */
    public static String in(String url, String name, String password) {
        return begun(url, "/api/session", "{\"name\":\"%s\",\"password\":\"%s\"}".formatted(name, password));
    }

    /** Takes the first administrator's invitation up; that is whose session it is from then on. */
    public static String first(String url, String secret) {
        var session = begun(
                url,
                "/api/invitations/" + secret,
                "{\"name\":\"tessa\",\"title\":\"Tessa Lorn\",\"password\":\"%s\"}".formatted(PASSWORD));
        SESSIONS.put(url, session);
        return session;
    }

    private static String begun(String url, String path, String body) {
        var request = HttpRequest.newBuilder(URI.create(url + path))
                .header("Content-Type", "application/json")
                .header("Cookie", "XSRF-TOKEN=x")
                .header("X-XSRF-TOKEN", "x")
                .POST(BodyPublishers.ofString(body));
        try (var client = HttpClient.newHttpClient()) {
            var answer = client.send(request.build(), BodyHandlers.ofString());
            return answer.headers().allValues("Set-Cookie").stream()
                    .filter(cookie -> cookie.startsWith("SESSION="))
                    .map(cookie -> cookie.substring("SESSION=".length()).split(";")[0])
                    .findFirst()
                    .orElseThrow(() -> new IllegalStateException(answer.statusCode() + " " + answer.body()));
        } catch (IOException e) {
            throw new IllegalStateException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }
}
