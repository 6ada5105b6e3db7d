package weft.server.people;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.builder;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.store.schema.Tables.SESSION;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.security.crypto.password.PasswordEncoder;
import weft.server.Browser;
import weft.server.TestServer;
import weft.store.people.People;
import weft.store.people.Secret;

@ExtendWith(TestServer.class)
class SessionApiTest {

    private static final String PASSWORD = "four dry river stones";

    private static long person(String name, String... groups) {
        var made = post(
                "/api/people",
                "{\"name\":\"%s\",\"title\":\"%s of the tests\",\"groups\":[%s],\"password\":\"%s\"}"
                        .formatted(
                                name,
                                name,
                                groups.length == 0 ? "" : "\"" + String.join("\",\"", groups) + "\"",
                                PASSWORD));
        assertThat(made.status()).as(made.http().body()).isEqualTo(201);
        return made.json().get("id").asLong();
    }

    private static int session(List<String> browser) {
        return as(browser, "GET", "/api/session", null).status();
    }

    @Test
    void oneSignsInAndOutAndIsToldWhoOneIs() {
        person("signs", "builders");
        var signed = Browser.signIn("Signs ", PASSWORD);
        assertThat(signed.json().get("person").get("groups").toString()).isEqualTo("[\"Builders\"]");
        assertThat(signed.http().headers().allValues("Set-Cookie").toString())
                .contains("HttpOnly")
                .contains("SameSite=Lax");
        var browser = Browser.signed(signed);
        assertThat(as(browser, "GET", "/api/session", null).json()).isEqualTo(signed.json());
        assertThat(as(browser, "GET", "/api/forms", null).status()).isEqualTo(200);
        assertThat(as(browser, "DELETE", "/api/session", null).status()).isEqualTo(204);
        assertThat(session(browser)).isEqualTo(401);
        assertThat(as(browser, "GET", "/api/forms", null).status()).isEqualTo(401);
    }

    @Test
    void aWrongNameAndAWrongPasswordAreAnsweredAlikeAndThenHeldUp() {
        person("held");
        for (int tries = 0; tries < 5; tries++) {
            var wrong = Browser.signIn("held", "no");
            var nobody = Browser.signIn("nobody-" + tries, "no");
            assertThat(wrong.status()).isEqualTo(401);
            assertThat(nobody.http().body()).isEqualTo(wrong.http().body());
        }
        var late = Browser.signIn("held", PASSWORD);
        assertThat(late.status()).isEqualTo(429);
        assertThat(Integer.parseInt(late.header("Retry-After"))).isBetween(1, 31);
        assertThat(Browser.signIn("never-tried", "no").status()).isEqualTo(401);
    }

    /** Spring's token for single-page apps: what writes sends in a header what it was given in a cookie. */
    @Test
    void nothingIsWrittenWithoutTheTokenOfTheSession() {
        var first = as(List.of(), "GET", "/api/session", null);
        assertThat(first.status()).isEqualTo(401);
        assertThat(first.http().headers().allValues("Set-Cookie").toString()).contains("XSRF-TOKEN=");
        assertThat(as(List.of(), "POST", "/api/session", "{\"name\":\"x\",\"password\":\"y\"}")
                        .status())
                .isEqualTo(403);
        assertThat(as(List.of(), "POST", "/api/tables", "{}").status()).isEqualTo(401);
        var cookie = builder().get(1);
        var without = as(List.of("Cookie", cookie), "POST", "/api/tables", "{\"name\":\"x\",\"title\":\"x\"}");
        assertThat(without.status()).isEqualTo(403);
        assertThat(as(List.of("Cookie", cookie, "X-XSRF-TOKEN", "another"), "POST", "/api/tables", "{}")
                        .status())
                .isEqualTo(403);
        assertThat(as(List.of("Cookie", cookie), "GET", "/api/tables", null).status())
                .isEqualTo(200);
    }

    /** A token is that of one session, whatever cookie says; and no page of another site writes, be it under the same domain. */
    @Test
    void aTokenIsThatOfItsSession() {
        person("tokens", "Builders");
        var session = Browser.of("tokens", PASSWORD).get(1).replaceFirst("XSRF-TOKEN=x; ", "");
        int made = get("/api/tables").json().size();
        var table = "{\"name\":\"by_token\",\"title\":\"By token\",\"columns\":[{\"title\":\"A\"}]}";
        for (var planted : List.of("y", "")) {
            var cookies = List.of("Cookie", "XSRF-TOKEN=" + planted + "; " + session, "X-XSRF-TOKEN", planted);
            assertThat(as(cookies, "POST", "/api/tables", table).status()).isEqualTo(403);
        }
        var own = List.of("Cookie", "XSRF-TOKEN=x; " + session, "X-XSRF-TOKEN", "x");
        for (var from : List.of("cross-site", "same-site")) {
            assertThat(as(own, "POST", "/api/tables", table, "Sec-Fetch-Site", from)
                            .status())
                    .isEqualTo(403);
        }
        assertThat(get("/api/tables").json()).hasSize(made);
        // A browser that has lost it is given it again.
        assertThat(as(List.of("Cookie", session), "GET", "/api/session", null)
                        .http()
                        .headers()
                        .allValues("Set-Cookie"))
                .singleElement()
                .asString()
                .startsWith("XSRF-TOKEN=x;");
        assertThat(as(own, "POST", "/api/tables", table, "Sec-Fetch-Site", "same-origin")
                        .status())
                .isEqualTo(201);
    }

    /** Who reads the database comes into no session by it; sessions of an earlier version go on. */
    @Test
    void aSessionIsKeptByTheHashOfItsCookie() {
        person("hashed", "Builders");
        var browser = Browser.of("hashed", PASSWORD);
        var sql = TestServer.part(DSLContext.class);
        var session = SESSION.PRINCIPAL_NAME.eq("hashed");
        var kept = sql.fetchValue(SESSION.SESSION_ID, session);
        assertThat(kept).isEqualTo(keptBy(browser));
        assertThat(session(List.of("Cookie", "XSRF-TOKEN=x; SESSION=" + cookie(kept))))
                .isEqualTo(401);
        var earlier = UUID.randomUUID().toString();
        sql.update(SESSION)
                .set(SESSION.SESSION_ID, earlier)
                .setNull(SESSION.TOKEN)
                .where(session)
                .execute();
        var before = List.of("Cookie", "XSRF-TOKEN=z; SESSION=" + cookie(earlier), "X-XSRF-TOKEN", "z");
        assertThat(as(before, "DELETE", "/api/session", null).status()).isEqualTo(204);
        assertThat(session(before)).isEqualTo(401);
    }

    private static String cookie(String value) {
        return Base64.getEncoder().encodeToString(value.getBytes(StandardCharsets.US_ASCII));
    }

    private static String keptBy(List<String> browser) {
        var cookie = browser.get(1).replaceFirst(".*SESSION=", "");
        return new Secret(new String(Base64.getDecoder().decode(cookie), StandardCharsets.US_ASCII)).hash();
    }

    @Test
    void whoIsStoppedIsStoppedAtOnce() {
        long id = person("stops", "Builders");
        var browser = Browser.of("stops", PASSWORD);
        assertThat(as(browser, "GET", "/api/forms", null).status()).isEqualTo(200);
        assertThat(send("PUT", "/api/people/" + id, "{\"stopped\":true}").status())
                .isEqualTo(200);
        assertThat(as(browser, "GET", "/api/forms", null).status()).isEqualTo(401);
        assertThat(Browser.signIn("stops", PASSWORD).status()).isEqualTo(401);
        send("PUT", "/api/people/" + id, "{\"stopped\":false,\"groups\":[]}");
        var again = Browser.of("stops", PASSWORD);
        assertThat(as(again, "GET", "/api/forms", null).status()).isEqualTo(403);
        assertThat(send("DELETE", "/api/people/" + id, null).status()).isEqualTo(204);
        assertThat(session(again)).isEqualTo(401);
        // The name stays theirs: nobody else becomes who entered their records.
        assertThat(post("/api/people", "{\"name\":\"stops\",\"title\":\"Another\",\"groups\":[]}")
                        .status())
                .isEqualTo(400);
    }

    @Test
    void anInvitationIsTakenUpOnce() {
        var made = post("/api/people", "{\"name\":\"invited\",\"title\":\"Ina Vale\",\"groups\":[]}")
                .json();
        var secret = made.get("invitation").asString().replaceFirst(".*/invitation/", "");
        assertThat(made.get("signsIn").asBoolean()).isFalse();
        var path = "/api/invitations/" + secret;
        assertThat(as(Browser.NOBODY, "GET", path, null).json().get("title").asString())
                .isEqualTo("Ina Vale");
        assertThat(as(Browser.NOBODY, "POST", path, "{\"password\":\"short\"}").status())
                .isEqualTo(400);
        var accepted = "{\"password\":\"" + PASSWORD + "\"}";
        assertThat(session(Browser.signed(as(Browser.NOBODY, "POST", path, accepted))))
                .isEqualTo(200);
        assertThat(as(Browser.NOBODY, "POST", path, accepted).status()).isEqualTo(404);
        assertThat(Browser.signIn("invited", PASSWORD).status()).isEqualTo(200);
        // Invited once more, the old password holds until the new one is chosen.
        var again = post("/api/people/" + made.get("id").asLong() + "/invitation", "")
                .json()
                .get("address")
                .asString();
        assertThat(again).doesNotContain(secret);
        var before = Browser.of("invited", PASSWORD);
        long id = made.get("id").asLong();
        var other = again.replaceFirst(".*(?=/invitation/)", "/api").replace("/invitation/", "/invitations/");
        // Whoever is stopped takes up none.
        send("PUT", "/api/people/" + id, "{\"stopped\":true}");
        assertThat(as(Browser.NOBODY, "POST", other, accepted).status()).isEqualTo(404);
        assertThat(Browser.signIn("invited", PASSWORD).status()).isEqualTo(401);
        send("PUT", "/api/people/" + id, "{\"stopped\":false}");
        assertThat(session(before)).isEqualTo(401);
        var meanwhile = Browser.of("invited", PASSWORD);
        assertThat(as(Browser.NOBODY, "POST", other, accepted).status()).isEqualTo(200);
        assertThat(session(meanwhile)).isEqualTo(401);
    }

    @Test
    void onesOwnPasswordIsGuessedNoFasterThanAtTheDoor() {
        person("guesses");
        var browser = Browser.of("guesses", PASSWORD);
        var statuses = new ArrayList<Integer>();
        for (int n = 0; n < 8; n++) {
            statuses.add(
                    as(browser, "PUT", "/api/session/password", "{\"old\":\"no\",\"password\":\"another long one\"}")
                            .status());
        }
        assertThat(statuses).containsExactly(400, 400, 400, 400, 400, 429, 429, 429);
    }

    @Test
    void changingOnesPasswordEndsOnesOtherSessions() {
        person("changes");
        var one = Browser.of("changes", PASSWORD);
        var other = Browser.of("changes", PASSWORD);
        assertThat(as(one, "PUT", "/api/session/password", "{\"old\":\"no\",\"password\":\"another long one\"}")
                        .status())
                .isEqualTo(400);
        assertThat(as(
                                one,
                                "PUT",
                                "/api/session/password",
                                "{\"old\":\"" + PASSWORD + "\",\"password\":\"another long one\"}")
                        .status())
                .isEqualTo(204);
        assertThat(session(one)).isEqualTo(200);
        assertThat(session(other)).isEqualTo(401);
        assertThat(Browser.signIn("changes", PASSWORD).status()).isEqualTo(401);
    }

    /** Whoever hears changes hears none once the session has ended. */
    @Test
    @Timeout(60)
    void whatIsHeardEndsWithTheSession() throws Exception {
        person("hears", "Builders");
        var form = TestServer.form("heard_rows", "{\"title\":\"Site\"}");
        var browser = Browser.of("hears", PASSWORD);
        var request = HttpRequest.newBuilder(URI.create(TestServer.url() + "/api/tables/heard_rows/events"))
                .headers(browser.toArray(String[]::new))
                .build();
        try (var client = HttpClient.newHttpClient();
                var lines = client.send(request, BodyHandlers.ofLines()).body()) {
            var heard = lines.iterator();
            while (!heard.next().contains("ready")) {
                // Until it listens.
            }
            assertThat(as(browser, "DELETE", "/api/session", null).status()).isEqualTo(204);
            post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"unheard\"}}");
            var rest = new StringBuilder();
            heard.forEachRemaining(rest::append);
            assertThat(rest).doesNotContain("saved");
            client.shutdownNow();
        }
    }

    @Test
    void sessionsAreListedAndEnded() {
        person("listed");
        var browser = Browser.of("listed", PASSWORD);
        var open = get("/api/sessions")
                .json()
                .valueStream()
                .filter(each -> each.get("name").asString().equals("listed"))
                .toList();
        assertThat(open).hasSize(1);
        assertThat(send("DELETE", "/api/sessions/" + open.getFirst().get("id").asString(), null)
                        .status())
                .isEqualTo(204);
        assertThat(session(browser)).isEqualTo(401);
        assertThat(get("/api/audit").http().body()).contains("session-ended", "signed-in");
    }

    /** Passwords are kept as an encoder for them spells them, and secrets as their hashes only. */
    @Test
    void noPasswordIsKeptAsItIs() {
        person("kept");
        var kept = TestServer.part(People.class).named("kept").orElseThrow();
        assertThat(kept.password().orElseThrow()).startsWith("{bcrypt}").doesNotContain(PASSWORD);
        assertThat(TestServer.part(PasswordEncoder.class)
                        .matches(PASSWORD, kept.password().get()))
                .isTrue();
        assertThat(get("/api/people").http().body()).doesNotContain("bcrypt");
    }

    @Test
    void aSessionIsReadAtEachRequestAndWrittenOnceAMinute() {
        person("seen", "builders");
        var browser = Browser.of("seen", PASSWORD);
        TestServer.form("seen_rows", "{\"title\":\"Site\"}");
        var sql = TestServer.part(DSLContext.class);
        var session = SESSION.PRINCIPAL_NAME.eq("seen");
        var written = DSL.field("xmin::text", String.class);
        var before = sql.select(written).from(SESSION).where(session).fetchSingle(written);
        for (int n = 0; n < 3; n++) {
            assertThat(session(browser)).isEqualTo(200);
            assertThat(as(browser, "POST", "/api/doors/seen_rows/records", "{\"values\":{\"site\":\"a\"}}")
                            .status())
                    .isEqualTo(201);
        }
        assertThat(sql.select(written).from(SESSION).where(session).fetchSingle(written))
                .isEqualTo(before);

        long ago = System.currentTimeMillis() - 61_000;
        sql.update(SESSION).set(SESSION.LAST_ACCESS_TIME, ago).where(session).execute();
        assertThat(session(browser)).isEqualTo(200);
        var now = sql.selectFrom(SESSION).where(session).fetchSingle();
        assertThat(now.get(SESSION.LAST_ACCESS_TIME)).isGreaterThan(ago + 60_000);
        assertThat(now.get(SESSION.EXPIRY_TIME))
                .isEqualTo(now.get(SESSION.LAST_ACCESS_TIME) + now.get(SESSION.MAX_INACTIVE_INTERVAL) * 1_000L);

        sql.update(SESSION)
                .set(SESSION.LAST_ACCESS_TIME, ago - Duration.ofHours(12).toMillis())
                .set(SESSION.EXPIRY_TIME, ago)
                .where(session)
                .execute();
        assertThat(session(browser)).isEqualTo(401);
    }

    @Test
    void whatIsNoSessionIsNobodys() {
        for (var odd : List.of("x", "Jw==", "AAAA", "%00", "a".repeat(36), "-".repeat(5_000))) {
            assertThat(session(List.of("Cookie", "XSRF-TOKEN=x; SESSION=" + odd)))
                    .as(odd)
                    .isEqualTo(401);
        }
    }
}
