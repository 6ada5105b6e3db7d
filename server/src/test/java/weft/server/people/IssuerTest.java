package weft.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.server.Server;
import weft.server.TestServer;
import weft.store.people.People;

/** Another server on the same database, where people come by an issuer. */
@ExtendWith(TestServer.class)
class IssuerTest {

    private static StandInIssuer issuer;
    private static ConfigurableApplicationContext server;
    private static String url;

    @BeforeAll
    static void given() throws Exception {
        issuer = new StandInIssuer();
        server = new SpringApplicationBuilder(Server.class)
                .registerShutdownHook(false)
                .run(
                        "--server.port=0",
                        "--weft.database.url=" + TestServer.database().url(),
                        "--weft.database.user=" + TestServer.database().user(),
                        "--weft.database.password=" + TestServer.database().password(),
                        "--weft.oidc.issuer=" + issuer.url(),
                        "--weft.oidc.secret=secret",
                        "--weft.oidc.title=River Trust",
                        "--weft.oidc.groups-claim=roles");
        url = "http://127.0.0.1:"
                + ((ServletWebServerApplicationContext) server).getWebServer().getPort();
    }

    @AfterAll
    static void stop() {
        server.close();
        issuer.close();
    }

    /** A browser that follows wherever it is sent, and keeps what it is given. */
    private record Came(HttpClient browser, HttpResponse<String> page) {
        JsonNode session() throws IOException, InterruptedException {
            return JsonMapper.shared().readTree(get(browser, "/api/session").body());
        }
    }

    private static HttpResponse<String> get(HttpClient browser, String path) throws IOException, InterruptedException {
        return browser.send(HttpRequest.newBuilder(URI.create(url + path)).build(), BodyHandlers.ofString());
    }

    private static Came come(Map<String, Object> claims) throws IOException, InterruptedException {
        issuer.next = claims;
        var browser = HttpClient.newBuilder()
                .cookieHandler(new CookieManager())
                .followRedirects(HttpClient.Redirect.ALWAYS)
                .build();
        return new Came(browser, get(browser, Issuer.begins()));
    }

    @Test
    void whoComesByAnIssuerIsAPersonInTheGroupsThatItSays() throws Exception {
        var offered = JsonMapper.shared()
                .readTree(get(HttpClient.newHttpClient(), "/api/session").body());
        assertThat(offered.get("issuer").asString()).isEqualTo("River Trust");
        var came = come(Map.of(
                "preferred_username", "Ilse.Moor", "name", "Ilse Moor", "roles", List.of("builders", "no such group")));
        assertThat(came.page().uri().toString()).isEqualTo(url + "/");
        assertThat(came.session().at("/person/name").asString()).isEqualTo("ilse.moor");
        assertThat(came.session().at("/person/groups").toString()).isEqualTo("[\"Builders\"]");
        assertThat(get(came.browser(), "/api/forms").statusCode()).isEqualTo(200);
        // The next time the issuer says otherwise.
        var again = come(Map.of("preferred_username", "ilse.moor", "name", "Ilse Moor"));
        assertThat(again.session().at("/person/groups").toString()).isEqualTo("[]");
        assertThat(get(came.browser(), "/api/forms").statusCode()).isEqualTo(403);
    }

    @Test
    void whoIsStoppedNamelessOrForgedIsNotLetIn() throws Exception {
        var people = TestServer.part(People.class);
        people.add(
                new People.Edited("ivo.dale", "Ivo Dale", Optional.empty(), List.of(), true), Optional.empty(), false);
        for (var claims : List.<Map<String, Object>>of(
                Map.of("preferred_username", "ivo.dale"),
                Map.of("name", "Nameless"),
                Map.of("preferred_username", "no name"))) {
            var came = come(claims);
            assertThat(came.page().uri().toString()).isEqualTo(url + "/?refused");
            assertThat(came.session().has("person")).isFalse();
        }
        issuer.forged = true;
        try {
            var came = come(Map.of("preferred_username", "ilse.forged"));
            assertThat(came.page().uri().toString()).isEqualTo(url + "/?refused");
            assertThat(people.named("ilse.forged")).isEmpty();
        } finally {
            issuer.forged = false;
        }
    }

    /** Sessions are the database's: each server knows them, and they end on both. */
    @Test
    void aSessionOfOneServerIsOneOfTheOther() throws Exception {
        var cookie = TestServer.builder().get(1);
        var here = HttpRequest.newBuilder(URI.create(url + "/api/session"))
                .header("Cookie", cookie)
                .build();
        var client = HttpClient.newHttpClient();
        assertThat(client.send(here, BodyHandlers.ofString()).body()).contains("tessa");
        var came = come(Map.of("preferred_username", "ida.both"));
        var session = came.browser()
                .cookieHandler()
                .orElseThrow()
                .get(URI.create(url), Map.of())
                .get("Cookie");
        var browser = List.of("Cookie", String.join("; ", session));
        assertThat(TestServer.as(browser, "GET", "/api/session", null).status()).isEqualTo(200);
        var id = TestServer.part(People.class).named("ida.both").orElseThrow().id();
        TestServer.send("PUT", "/api/people/" + id, "{\"stopped\":true}");
        assertThat(came.session().has("person")).isFalse();
    }
}
