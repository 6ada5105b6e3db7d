package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.util.List;
import java.util.Random;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class RulesApiTest {

    private static final String NONE = """
            {"checks":[],"fills":[],"formulas":[],"choices":[],"numbers":[],"steps":[],"practice":[]}""";

    /** A table, and a published form of it with these parts of its rules. */
    static String ruled(String name, String columns, String... parts) {
        var form = form(name, columns);
        var rules = (ObjectNode) JsonMapper.shared().readTree(NONE);
        for (var part : parts) {
            rules.setAll((ObjectNode) JsonMapper.shared().readTree("{" + part + "}"));
        }
        var document = (ObjectNode) get("/api/forms/" + form).json();
        document.set("rules", rules);
        assertThat(send("PUT", "/api/forms/" + form, document.toString(), "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        var published = post("/api/forms/" + form + "/publish", "");
        assertThat(published.status()).as(published.http().body()).isEqualTo(200);
        return "/api/doors/" + form;
    }

    /** Where builders work on the form behind a door. */
    private static String forms(String door) {
        return door.replace("/api/doors/", "/api/forms/");
    }

    private static final String KIT = """
            "fills":[{"id":"kit","table":"%s","keys":[{"column":"tag","source":"tag"}],"brings":[{"column":"kind","source":"kind"}],
              "none":"stop","several":"choose","writesBack":false}]""";
    private static final String BOOKING = """
            {"name":"tag","title":"Tag"},{"name":"kind","title":"Kind"},{"name":"from_at","title":"From","type":"datetime"},
            {"name":"to_at","title":"To","type":"datetime"},{"name":"email","title":"E-mail"},{"name":"remark","title":"Remark"}""";
    private static final String OFFER = """
            "steps":[{"when":"saved","steps":[
              {"onlyIf":"email != null","action":{"kind":"ask","id":"offer","text":"Send a confirmation to {email}?","usual":"no"}},
              {"onlyIf":"email != null","action":{"kind":"send","to":"{email}","subject":"Booking {row}","text":"{tag}, {kind}."}},
              {"onlyIf":"","action":{"kind":"say","text":"{kind} is booked."}}]}]""";

    private static String bookings(String name) {
        form(
                name + "_kit",
                "{\"name\":\"tag\",\"title\":\"Tag\",\"unique\":true},{\"name\":\"kind\",\"title\":\"Kind\"}");
        post("/api/doors/" + name + "_kit/records", "{\"values\":{\"tag\":\"K-07\",\"kind\":\"Meter\"}}");
        var api = ruled(name, BOOKING, KIT.formatted(name + "_kit"), OFFER);
        var held = post(
                "/api/tables/" + name + "/constraints",
                "{\"kind\":\"overlap\",\"columns\":[\"tag\"],\"from\":\"from_at\",\"to\":\"to_at\"}");
        assertThat(held.status()).as(held.http().body()).isEqualTo(201);
        return api;
    }

    private static String booking(int from, int to, String more) {
        return "{\"values\":{\"tag\":\"K-07\",\"from_at\":\"2026-08-01 %02d:00\",\"to_at\":\"2026-08-01 %02d:00\"%s}"
                .formatted(from, to, more);
    }

    @Test
    void aBookingIsFilledOffersAMessageAndIsRefusedWhenItOverlaps() {
        var api = bookings("rules_bookings");
        var asked = post(api + "/records", booking(9, 12, ",\"email\":\"i@example.org\"") + "}");
        assertThat(asked.status()).isEqualTo(422);
        var question = asked.json().get("findings").get(0);
        assertThat(question.get("code").asString()).isEqualTo("question");
        assertThat(question.get("rule").asString()).isEqualTo("offer");
        assertThat(question.get("message").asString()).isEqualTo("Send a confirmation to i@example.org?");
        assertThat(question.get("cause").toString())
                .isEqualTo("{\"is\":\"question\",\"text\":\"Send a confirmation to i@example.org?\"}");
        assertThat(asked.json().get("usual").asString()).isEqualTo("no");
        assertThat(get(api + "/next-row").json().get("row").asLong()).isEqualTo(1);

        var no = post(
                api + "/records", booking(9, 12, ",\"email\":\"i@example.org\"") + ",\"answers\":{\"offer\":\"no\"}}");
        assertThat(no.status()).isEqualTo(201);
        assertThat(no.json().get("values").get("kind").asString()).isEqualTo("Meter");
        assertThat(no.json().get("then").get(0).get("text").asString()).isEqualTo("Meter is booked.");
        assertThat(subjects("rules_bookings")).doesNotContain("Booking 1");

        var clash = post(api + "/records", booking(11, 13, "") + "}");
        assertThat(clash.json().get("findings").get(0).get("code").asString()).isEqualTo("overlap");
        assertThat(clash.json().get("findings").get(0).get("message").asString())
                .startsWith("Row 1 already has K-07 from ");

        var key = new String[] {"Idempotency-Key", "rules-booking"};
        var yes = booking(12, 13, ",\"email\":\"i@example.org\"") + ",\"answers\":{\"offer\":\"yes\"}}";
        assertThat(send("POST", api + "/records", yes, key).status()).isEqualTo(201);
        assertThat(send("POST", api + "/records", yes, key).json().get("row").asLong())
                .isEqualTo(2);
        assertThat(subjects("rules_bookings")).containsOnlyOnce("Booking 2");
        assertThat(post(api + "/records", "{\"values\":{\"tag\":\"K-99\"}}")
                        .http()
                        .body())
                .contains("has no row with K-99");
    }

    private static List<String> subjects(String form) {
        return get("/api/messages")
                .json()
                .get("messages")
                .valueStream()
                .filter(each -> each.get("form").asString().equals(form))
                .map(each -> each.get("subject").asString())
                .toList();
    }

    @Test
    void ofThirtyTwoWhoBookThroughTheApiAtOnceOneWinsAndTheOthersAreToldWhich() throws Exception {
        var api = bookings("rules_race");
        try (var pool = Executors.newFixedThreadPool(32)) {
            var all = IntStream.range(0, 32)
                    .mapToObj(i -> pool.submit(() -> post(api + "/records", booking(8, 10 + i % 8, "") + "}")))
                    .toList();
            int won = 0;
            for (var one : all) {
                var answer = one.get();
                won += answer.status() == 201 ? 1 : 0;
                if (answer.status() != 201) {
                    assertThat(answer.status()).isEqualTo(422);
                    assertThat(answer.json()
                                    .get("findings")
                                    .get(0)
                                    .get("message")
                                    .asString())
                            .startsWith("Row 1 already has K-07");
                }
            }
            assertThat(won).isEqualTo(1);
        }
    }

    @Test
    void aThreadThatLeadsNowhereIsToldByTheRehearsalAndNothingElseIsHeldUp() {
        var form = form("rules_loose", "{\"name\":\"site\",\"title\":\"Site\"},{\"name\":\"ph\",\"title\":\"pH\"}");
        var document = (ObjectNode) get("/api/forms/" + form).json();
        ((ObjectNode) document.at("/sections/0/items/1")).put("column", "acidity");
        assertThat(send("PUT", "/api/forms/" + form, document.toString(), "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        var draft = "{\"values\":{\"site\":\"QB-03\",\"acidity\":\"7\"}}";
        var sheet = post("/api/forms/" + form + "/bench/rehearse", draft);
        assertThat(sheet.status()).as(sheet.http().body()).isEqualTo(200);
        assertThat(sheet.json().get("steps")).anySatisfy(line -> {
            assertThat(line.get("mark").asString()).isEqualTo("fault");
            assertThat(line.get("stage").asString()).isEqualTo("read");
            assertThat(line.get("about").asString()).isEqualTo("acidity");
        });
        assertThat(sheet.json().at("/writes/0/values/site").asString()).isEqualTo("QB-03");
        assertThat(post("/api/forms/" + form + "/bench/assess", draft).status()).isEqualTo(200);
        // Of a stranger's column it is told as ever.
        assertThat(post("/api/forms/" + form + "/bench/assess", "{\"values\":{\"river\":\"x\"}}")
                        .status())
                .isEqualTo(400);
    }

    /** Whatever is typed, the three say the same: what stops, what asks, what would be stored and where. */
    @Test
    void assessRehearseAndSaveAgreeOnEveryDraft() {
        var api = bookings("rules_agree");
        var random = new Random(7);
        var tags = new String[] {"", "K-07", "K-99", " K-07 "};
        var times = new String[] {"", "2026-08-01 9:00", "2026-08-01 11:00", "2026-08-02 8:00", "soon", "9:30"};
        for (int i = 0; i < 60; i++) {
            var values = JsonMapper.shared().createObjectNode();
            values.put("tag", tags[random.nextInt(tags.length)]);
            values.put("from_at", times[random.nextInt(times.length)]);
            values.put("to_at", times[random.nextInt(times.length)]);
            values.put("email", random.nextBoolean() ? "" : "i@example.org");
            var answers = random.nextBoolean() ? "{}" : "{\"offer\":\"yes\"}";
            var draft = "{\"values\":" + values + ",\"answers\":" + answers + "}";
            var assessed = post(api + "/assess", draft).json();
            var rehearsed = post(forms(api) + "/rehearse", draft).json();
            var saved = post(api + "/records", draft);
            if (saved.status() == 201) {
                assertThat(assessed.get("findings")).isEmpty();
                assertThat(rehearsed.get("findings")).isEmpty();
                assertThat(rehearsed.get("row")).isEqualTo(saved.json().get("row"));
                assertThat(rehearsed.get("writes").get(0).get("values"))
                        .isEqualTo(saved.json().get("values"));
            } else {
                var findings = saved.json().get("findings");
                assertThat(rehearsed.get("findings")).as(rehearsed.toString()).isEqualTo(findings);
                // What would be written is told all the same, and has no row of its own.
                assertThat(rehearsed.get("row").isNull()).isTrue();
                assertThat(rehearsed.get("writes").get(0).get("row"))
                        .isEqualTo(get(api + "/next-row").json().get("row"));
                if (!findings.get(0).get("code").asString().equals("question")) {
                    assertThat(assessed.get("findings")).isEqualTo(findings);
                }
            }
        }
    }

    @Test
    void aHandOnCarriesTheNumberAndTheRowAndAButtonChangesTheOtherRow() {
        form(
                "rules_incidents",
                "{\"name\":\"sample\",\"title\":\"Sample\"},{\"name\":\"status\",\"title\":\"Status\"}");
        var api = ruled(
                "rules_samples",
                "{\"name\":\"number\",\"title\":\"Number\"},{\"name\":\"follow_up\",\"title\":\"Follow up\",\"type\":\"yesno\"},{\"name\":\"state\",\"title\":\"State\"}",
                "\"numbers\":[{\"column\":\"number\",\"pattern\":\"S-{year}-{000}\"}]",
                """
                "steps":[{"when":"saved","steps":[{"onlyIf":"follow_up","action":{"kind":"add-row","table":"rules_incidents",
                  "values":[{"column":"sample","formula":"number"},{"column":"status","formula":"\\"row \\" + string(row)"}]}}]},
                 {"when":"done","steps":[{"onlyIf":"","action":{"kind":"set-field","value":{"column":"state","formula":"\\"closed\\""}}},
                  {"onlyIf":"","action":{"kind":"press","action":"save"}},
                  {"onlyIf":"","action":{"kind":"change-row","table":"rules_incidents","where":[{"column":"sample","formula":"number"}],
                   "values":[{"column":"status","formula":"\\"closed\\""}]}},
                  {"onlyIf":"","action":{"kind":"press","action":"new"}}]}]""");
        var saved = post(api + "/records", "{\"values\":{\"follow_up\":\"y\"}}");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        var number = saved.json().get("values").get("number").asString();
        assertThat(number).matches("S-\\d{4}-001");
        var incidents = get("/api/tables/rules_incidents/records").json().get("records");
        assertThat(incidents.get(0).get("values").toString())
                .isEqualTo("{\"sample\":\"" + number + "\",\"status\":\"row 1\"}");
        var pressed = send(
                "POST",
                api + "/buttons/done/press",
                "{\"values\":{\"number\":\"" + number + "\",\"follow_up\":\"y\"},\"record\":"
                        + saved.json().get("id") + "}",
                "If-Match",
                "\"1\"");
        assertThat(pressed.status()).as(pressed.http().body()).isEqualTo(200);
        assertThat(pressed.json().get("saved").get("values").get("state").asString())
                .isEqualTo("closed");
        assertThat(pressed.json().get("then").get(0).get("press").asString()).isEqualTo("new");
        assertThat(get("/api/tables/rules_incidents/records")
                        .json()
                        .get("records")
                        .get(0)
                        .get("values")
                        .get("status")
                        .asString())
                .isEqualTo("closed");
    }

    @Test
    void aRunningNumberIsGivenOnceAndStays() {
        var api = ruled(
                "rules_numbers",
                "{\"name\":\"number\",\"title\":\"Number\"},{\"name\":\"site\",\"title\":\"Site\"}",
                "\"numbers\":[{\"column\":\"number\",\"pattern\":\"N-{000}\"}]");
        var first = post(api + "/records", "{\"values\":{\"site\":\"a\"}}").json();
        assertThat(first.at("/values/number").asString()).isEqualTo("N-001");
        var other = "{\"values\":{\"number\":\"N-002\",\"site\":\"b\"}}";
        send("PUT", api + "/records/" + first.get("id"), other, "If-Match", "\"1\"");
        post(api + "/changes", "{\"ids\":[" + first.get("id") + "],\"set\":{\"number\":{\"typed\":\"N-002\"}}}");
        var second = post(api + "/records", "{\"values\":{\"site\":\"c\"}}").json();
        assertThat(second.at("/values/number").asString()).isEqualTo("N-002");
        assertThat(get(api + "/records/" + first.get("id"))
                        .json()
                        .at("/values/number")
                        .asString())
                .isEqualTo("N-001");
    }

    @Test
    void onlyWhatIsTypedNowGoesBackToItsSource() {
        form(
                "rules_newer",
                "{\"name\":\"tag\",\"title\":\"Tag\",\"unique\":true},{\"name\":\"kind\",\"title\":\"Kind\"}");
        post("/api/doors/rules_newer/records", "{\"values\":{\"tag\":\"K-07\",\"kind\":\"Meter\"}}");
        var api = ruled(
                "rules_newer_backs",
                BOOKING,
                KIT.formatted("rules_newer").replace("\"writesBack\":false", "\"writesBack\":true"));
        var id =
                post(api + "/records", "{\"values\":{\"tag\":\"K-07\"}}").json().get("id");
        send(
                "PUT",
                "/api/doors/rules_newer/records/1",
                "{\"values\":{\"tag\":\"K-07\",\"kind\":\"Newer\"}}",
                "If-Match",
                "\"1\"");
        var other = "{\"values\":{\"tag\":\"K-07\",\"kind\":\"Meter\",\"remark\":\"late\"}}";
        assertThat(send("PUT", api + "/records/" + id, other, "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        assertThat(get("/api/doors/rules_newer/records/1")
                        .json()
                        .at("/values/kind")
                        .asString())
                .isEqualTo("Newer");
        assertThat(send("PUT", api + "/records/" + id, other.replace("Meter", "pH meter"), "If-Match", "\"2\"")
                        .status())
                .isEqualTo(200);
        assertThat(get("/api/doors/rules_newer/records/1")
                        .json()
                        .at("/values/kind")
                        .asString())
                .isEqualTo("pH meter");
    }

    @Test
    void aFillThatDoesNotFitItsFieldStopsAndIsNotLeftEmptyUnsaid() {
        form(
                "rules_deep",
                "{\"name\":\"tag\",\"title\":\"Tag\",\"unique\":true},{\"name\":\"kind\",\"title\":\"Depth\",\"type\":\"decimal\"}");
        post("/api/doors/rules_deep/records", "{\"values\":{\"tag\":\"K-07\",\"kind\":\"1.234\"}}");
        post("/api/doors/rules_deep/records", "{\"values\":{\"tag\":\"K-08\",\"kind\":\"1.2\"}}");
        var api = ruled(
                "rules_shallow",
                "{\"name\":\"tag\",\"title\":\"Tag\"},{\"name\":\"kind\",\"title\":\"Depth\",\"type\":\"decimal\",\"scale\":1}",
                KIT.formatted("rules_deep"));
        var stopped = post(api + "/records", "{\"values\":{\"tag\":\"K-07\"}}");
        assertThat(stopped.status()).isEqualTo(422);
        assertThat(stopped.json().at("/findings/0/field").asString()).isEqualTo("kind");
        assertThat(stopped.json().at("/findings/0/message").asString()).startsWith("Depth can't be worked out.");
        assertThat(post(api + "/records", "{\"values\":{\"tag\":\"K-08\"}}")
                        .json()
                        .at("/values/kind")
                        .asString())
                .isEqualTo("1.2");
    }

    @Test
    void whatIsTypedOverAFilledValueIsWrittenBackToItsSource() {
        form(
                "rules_sources",
                "{\"name\":\"tag\",\"title\":\"Tag\",\"unique\":true},{\"name\":\"kind\",\"title\":\"Kind\"}");
        post("/api/doors/rules_sources/records", "{\"values\":{\"tag\":\"K-07\",\"kind\":\"Meter\"}}");
        var api = ruled(
                "rules_backs",
                BOOKING,
                KIT.formatted("rules_sources").replace("\"writesBack\":false", "\"writesBack\":true"));
        assertThat(post(api + "/records", "{\"values\":{\"tag\":\"K-07\"}}").status())
                .isEqualTo(201);
        assertThat(post(api + "/records", "{\"values\":{\"tag\":\"K-07\",\"kind\":\"pH meter\"}}")
                        .status())
                .isEqualTo(201);
        var source = get("/api/doors/rules_sources/place?to=row:1").json().get("record");
        assertThat(source.get("values").get("kind").asString()).isEqualTo("pH meter");
        assertThat(source.get("version").asInt()).isEqualTo(2);
    }

    @Test
    void listsAreNarrowedByCodeOrName() {
        var api = bookings("rules_lists");
        post("/api/doors/rules_lists_kit/records", "{\"values\":{\"tag\":\"K-08\",\"kind\":\"Kick net\"}}");
        var asked = post(api + "/choices/tag", "{\"typed\":\"NET\",\"draft\":{\"values\":{}}}")
                .json();
        assertThat(asked.toString()).isEqualTo("[{\"value\":\"K-08\",\"shown\":\"Kick net\"}]");
        assertThat(post(api + "/choices/tag", "{\"typed\":\"k-0\",\"draft\":{\"values\":{}}}")
                        .json())
                .hasSize(2);
        assertThat(post(api + "/choices/kind", "{\"typed\":\"\",\"draft\":{\"values\":{}}}")
                        .status())
                .isEqualTo(404);
    }

    @Test
    void aBuilderTriesFormulasAndChecksBeforeTheyAreKept() {
        var form = form("rules_tried", "{\"name\":\"ph\",\"title\":\"pH\",\"type\":\"decimal\",\"scale\":1}");
        var api = "/api/doors/" + form;
        post(api + "/records", "{\"values\":{\"ph\":\"9.4\"}}");
        post(api + "/records", "{\"values\":{\"ph\":\"7\"}}");
        assertThat(post(
                                forms(api) + "/bench/formula",
                                "{\"formula\":\"ph * 2\",\"draft\":{\"values\":{\"ph\":\"7.4\"}}}")
                        .json()
                        .toString())
                .isEqualTo("{\"words\":\"14.8\",\"fault\":null}");
        assertThat(post(forms(api) + "/bench/formula", "{\"formula\":\"acid + 1\",\"draft\":{\"values\":{}}}")
                        .json()
                        .get("fault")
                        .asString())
                .contains("no such column");
        var look = post(
                        forms(api) + "/bench/look",
                        "{\"part\":\"checks\",\"rule\":{\"id\":\"c\",\"asks\":true,\"stays\":false,\"message\":\"\",\"rule\":{\"kind\":\"range\",\"column\":\"ph\",\"from\":\"6\",\"to\":\"9\"}}}")
                .json();
        assertThat(look.get("broken").asLong()).isEqualTo(1);
        assertThat(look.get("examples").get(0).get("row").asLong()).isEqualTo(1);
        assertThat(post(
                                "/api/tables/rules_tried/constraints",
                                "{\"kind\":\"overlap\",\"columns\":[],\"from\":\"ph\",\"to\":\"ph\"}")
                        .status())
                .isEqualTo(400);
    }

    @Test
    void practiceEntriesTellWhatNoLongerComesOutAsExpected() {
        var api = ruled(
                "rules_practice",
                "{\"name\":\"ph\",\"title\":\"pH\",\"type\":\"decimal\",\"scale\":1},{\"name\":\"twice\",\"title\":\"Twice\",\"type\":\"decimal\",\"scale\":1}",
                "\"formulas\":[{\"target\":\"twice\",\"what\":\"calculated\",\"formula\":\"ph * 2\"}]",
                "\"checks\":[{\"id\":\"high\",\"asks\":true,\"stays\":false,\"message\":\"\",\"rule\":{\"kind\":\"range\",\"column\":\"ph\",\"from\":\"\",\"to\":\"9\"}}]",
                """
                "practice":[
                 {"id":"a","name":"usual","typed":{"ph":"7"},"answers":{},"outcome":"saved","code":"","values":{"twice":"14.0"}},
                 {"id":"b","name":"high","typed":{"ph":"9.5"},"answers":{},"outcome":"asked","code":"high","values":{}},
                 {"id":"c","name":"wrong","typed":{"ph":"x"},"answers":{},"outcome":"saved","code":"","values":{}}]""");
        var runs = post(forms(api) + "/bench/practice", "").json();
        assertThat(runs.valueStream().map(run -> run.get("asExpected").asBoolean()))
                .containsExactly(true, true, false);
        assertThat(runs.get(2).get("words").asString()).startsWith("Expected to be saved, but it is stopped.");
        assertThat(get(api + "/next-row").json().get("row").asLong()).isEqualTo(1);
    }

    @Test
    void aFormWhoseRulesGoInACircleHasAFrayThatBites() {
        var form = form("rules_circle", "{\"name\":\"a\",\"title\":\"A\"},{\"name\":\"b\",\"title\":\"B\"}");
        var document = (ObjectNode) get("/api/forms/" + form).json();
        var rules = (ObjectNode) JsonMapper.shared().readTree(NONE);
        rules.set(
                "formulas",
                JsonMapper.shared()
                        .readTree(
                                "[{\"target\":\"a\",\"what\":\"calculated\",\"formula\":\"b\"},{\"target\":\"b\",\"what\":\"calculated\",\"formula\":\"a\"}]"));
        document.set("rules", rules);
        send("PUT", "/api/forms/" + form, document.toString(), "If-Match", "\"1\"");
        var refused = post("/api/forms/" + form + "/publish", "");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.http().body()).contains("in a circle");
    }
}
