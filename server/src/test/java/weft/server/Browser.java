package weft.server;

import java.util.List;
import weft.server.TestServer.Answer;
import weft.store.people.Secret;

/** What the browsers of people send with each request, once they are signed in. */
public final class Browser {

    /** One whose user is not signed in. */
    public static final List<String> NOBODY = List.of("Cookie", "XSRF-TOKEN=x", "X-XSRF-TOKEN", "x");

    private static final String PASSWORD = "four dry river stones";

    private Browser() {}

    /** One that takes an invitation up with that. */
    static List<String> invited(Secret invitation, String accepted) {
        return signed(TestServer.as(NOBODY, "POST", "/api/invitations/" + invitation.text(), accepted));
    }

    /** One that signs in; the test fails when it cannot. */
    public static List<String> of(String name, String password) {
        return signed(signIn(name, password));
    }

    /** One of a new person, who is in that group and in no other; the group is made where there is none. */
    public static List<String> newIn(String group, String name) {
        TestServer.post("/api/groups", "{\"name\":\"" + group + "\",\"title\":\"" + group + "\"}");
        TestServer.post(
                "/api/people",
                "{\"name\":\"%s\",\"title\":\"%s\",\"groups\":[\"%s\"],\"password\":\"%s\"}"
                        .formatted(name, name, group, PASSWORD));
        return of(name, PASSWORD);
    }

    /** What comes of signing in. */
    public static Answer signIn(String name, String password) {
        return TestServer.as(
                NOBODY, "POST", "/api/session", "{\"name\":\"" + name + "\",\"password\":\"" + password + "\"}");
    }

    /** One with the session that an answer begins. */
    public static List<String> signed(Answer answer) {
        if (answer.status() != 200) {
            throw new IllegalStateException(answer.http().body());
        }
        var session = answer.http().headers().allValues("Set-Cookie").stream()
                .filter(cookie -> cookie.startsWith("SESSION="))
                .map(cookie -> cookie.split(";")[0])
                .findFirst()
                .orElseThrow();
        return List.of("Cookie", "XSRF-TOKEN=x; " + session, "X-XSRF-TOKEN", "x");
    }
}
