package weft.server.bench;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

@ExtendWith(TestServer.class)
class BenchApiTest {

    private static Answer lines(String form, int seen, String... lines) {
        return post(
                "/api/forms/" + form + "/lines",
                "{\"lines\":[\"" + String.join("\",\"", lines) + "\"]}",
                "If-Match",
                "\"" + seen + "\"");
    }

    private static JsonNode state(String form) {
        return get("/api/forms/" + form + "/bench").json();
    }

    private static void change(String form, int seen, String from, String to) {
        var body = get("/api/forms/" + form).http().body();
        assertThat(body).contains(from);
        assertThat(send("PUT", "/api/forms/" + form, body.replace(from, to), "If-Match", "\"" + seen + "\"")
                        .status())
                .isEqualTo(200);
    }

    @Test
    void aFormBegunFromNothingTakesEntriesOnceItIsPublished() {
        var begun = post("/api/forms/begun", "{\"lines\":[\"Site, required\"]}");
        assertThat(begun.status()).isEqualTo(201);
        var form = begun.json().get("id").asString();
        var grown = lines(form, 1, "Quantity, whole 1 to 30", "Bank, left or right");
        assertThat(grown.http().body()).contains("\"column\":\"quantity\"", "\"column\":\"bank\"");
        assertThat(get("/api/doors/" + form + "/published").status()).isEqualTo(404);
        assertThat(post("/api/forms/" + form + "/publish", "").status()).isEqualTo(200);
        var saved = post(
                "/api/doors/" + form + "/records",
                "{\"values\":{\"site\":\"QB-03\",\"quantity\":\"31\",\"bank\":\"left\"}}");
        assertThat(saved.status()).isEqualTo(422);
        assertThat(saved.http().body()).contains("Quantity must be between 1 and 30");
    }

    @Test
    void linesAreAllMadeOrNoneAndNeverOverWhatAnotherBuilderDid() {
        var form = form("bench_lines", "{\"title\":\"Site\"}");
        var unclear = lines(form, 1, "Depth, whole", "Bank, deepish");
        assertThat(unclear.status()).isEqualTo(422);
        assertThat(unclear.http().body()).contains("“Bank, deepish”");
        assertThat(get("/api/tables/bench_lines").json().get("columns")).hasSize(1);
        assertThat(lines(form, 7, "Depth, whole").status()).isEqualTo(412);
        assertThat(post("/api/forms/" + form + "/lines/read", "{\"lines\":[\"Depth, whole 1 to 3\"]}")
                        .json()
                        .get("words")
                        .asString())
                .isEqualTo("new column depth, a whole number, 1 to 3");
    }

    @Test
    void lineAndColumnAreMadeTogetherOrNotAtAllAndSoAreFormAndTable() {
        var form = form("bench_whole", "{\"title\":\"Site\"}");
        var tooLong = "Depth, whole, help " + "x".repeat(1_000);
        assertThat(lines(form, 1, tooLong).status()).isEqualTo(400);
        assertThat(get("/api/tables/bench_whole").json().get("columns")).hasSize(1);
        assertThat(get("/api/forms/" + form).header("ETag")).isEqualTo("\"1\"");

        var tables = get("/api/tables").json();
        assertThat(post("/api/forms/begun", "{\"lines\":[\"" + tooLong + "\"]}").status())
                .isEqualTo(400);
        assertThat(get("/api/tables").json()).isEqualTo(tables);
    }

    @Test
    void theRulesOfAWorkingCopyReadAsTheyDoEverywhere() {
        var form = form("bench_words", "{\"title\":\"pH\",\"type\":\"decimal\"}");
        change(
                form,
                1,
                "\"checks\":[]",
                "\"checks\":[{\"id\":\"rare\",\"asks\":true,\"stays\":false,\"message\":\"\","
                        + "\"rule\":{\"kind\":\"range\",\"column\":\"ph\",\"from\":\"6\",\"to\":\"9\"}}]");
        var state = state(form);
        assertThat(state.at("/rules/0/key").asString()).isEqualTo("check rare");
        assertThat(state.at("/rules/0/text").asString()).isEqualTo("asks unless pH is between 6 and 9");
        assertThat(state.at("/rules/0/columns/0").asString()).isEqualTo("ph");
        assertThat(state.at("/marks/ph").asString()).isEqualTo("check");
        assertThat(state.at("/changes/0/words").asString()).isEqualTo("asks unless pH is between 6 and 9");
        assertThat(state.at("/ruled/ph/listed").asBoolean()).isFalse();
    }

    @Test
    void aPatternIsTriedAsChecksTryIt() {
        var form = form("bench_pattern", "{\"title\":\"Code\"}");
        assertThat(tried(form, "\\\\pL+", "Qüill").at("/matches").asBoolean()).isTrue();
        assertThat(tried(form, "\\\\pL+", "QB-03").at("/matches").asBoolean()).isFalse();
        assertThat(tried(form, "[a", "a").at("/fault").asString()).startsWith("The pattern “[a” can't be read");
    }

    private static JsonNode tried(String form, String pattern, String text) {
        return post(
                        "/api/forms/" + form + "/bench/pattern",
                        "{\"pattern\":\"" + pattern + "\",\"text\":\"" + text + "\"}")
                .json();
    }

    @Test
    void aFrayThatWouldBiteIsNotPublishedWithoutSayingSo() {
        var form = form("bench_frays", "{\"title\":\"Site\",\"required\":true},{\"title\":\"pH\"}");
        change(form, 1, "\"use\":\"open\"", "\"use\":\"locked\"");
        var frays = state(form).get("frays");
        assertThat(frays.valueStream().map(fray -> fray.get("id").asString())).contains("never site", "nothing");
        var refused = post("/api/forms/" + form + "/publish", "");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.http().body()).contains("Site is needed, but nobody can type in it");
        var mended = post("/api/forms/" + form + "/mend", "{\"fray\":\"never site\"}", "If-Match", "\"2\"");
        assertThat(mended.status()).isEqualTo(200);
        assertThat(state(form).get("frays")).isEmpty();
        assertThat(state(form).get("changes").get(0).get("words").asString()).isEqualTo("pH is locked");
        assertThat(post("/api/forms/" + form + "/publish", "").status()).isEqualTo(200);
        change(form, 3, "\"column\":\"site\"", "\"column\":\"gone\"");
        assertThat(post("/api/forms/" + form + "/publish?despite=frays", "").status())
                .isEqualTo(200);
    }

    @Test
    void anEntryIsSavedByTheRulesOfNowWhicheverVersionItWasBegunOn() {
        var form = form("bench_middle", "{\"title\":\"Site\"},{\"title\":\"pH\"}");
        change(form, 1, "\"column\":\"ph\",\"widget\":\"line\"", "\"column\":\"ph\",\"widget\":\"area\"");
        var required = get("/api/forms/" + form).http().body().replace("\"required\":false", "\"required\":true");
        send("PUT", "/api/forms/" + form, required, "If-Match", "\"2\"");
        post("/api/forms/" + form + "/publish", "");
        var entry = "{\"values\":{\"site\":\"QB-03\"}%s}";
        var path = "/api/doors/" + form + "/records";
        assertThat(post(path, entry.formatted(",\"version\":1")).status()).isEqualTo(422);
        assertThat(post(path, entry.formatted("")).status()).isEqualTo(422);
        assertThat(post(path, entry.formatted(",\"version\":9")).status()).isEqualTo(404);
    }

    @Test
    void aColumnRenamedWhileOneTypesIsStillFoundByItsOldName() {
        var form = form("bench_renamed", "{\"title\":\"pH\"}");
        send("PUT", "/api/doors/" + form + "/finds/Sour", "{\"where\":[\"ph:7\"]}");
        assertThat(send("PUT", "/api/tables/bench_renamed/columns/ph", "{\"name\":\"acidity\",\"title\":\"Acidity\"}")
                        .status())
                .isEqualTo(200);
        var saved = post("/api/doors/" + form + "/records", "{\"values\":{\"ph\":\"7\"}}");
        assertThat(saved.status()).isEqualTo(201);
        assertThat(saved.json().get("values").get("acidity").asString()).isEqualTo("7");
        var found = get("/api/doors/" + form + "/records?where=ph:7");
        assertThat(found.status()).as(found.http().body()).isEqualTo(200);
        assertThat(found.json().get("records")).hasSize(1);
        var kept = get("/api/doors/" + form + "/finds").json().get(0);
        assertThat(kept.get("where").get(0).asString()).isEqualTo("acidity:7");
    }

    @Test
    void aFormWhoseOrderLostItsColumnGoesOnByRow() {
        var form = form("bench_ordered", "{\"title\":\"Site\"},{\"title\":\"pH\"}");
        change(form, 1, "\"order\":[]", "\"order\":[{\"column\":\"ph\",\"down\":true}]");
        post("/api/forms/" + form + "/publish", "");
        post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"QB-03\"}}");
        assertThat(send("DELETE", "/api/tables/bench_ordered/columns/ph", null).status())
                .isEqualTo(204);
        assertThat(get("/api/doors/" + form + "/records").json().get("records")).hasSize(1);
        assertThat(post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"QB-04\"}}")
                        .status())
                .isEqualTo(201);
    }

    @Test
    void aFormGoesElsewhereAsAFileAndSaysWhatItCouldNotTie() {
        var form = form("bench_file", "{\"title\":\"Site\"},{\"title\":\"pH\"}");
        form("bench_elsewhere", "{\"title\":\"Site\"}");
        var file = get("/api/forms/" + form + "/file");
        assertThat(file.header("Content-Disposition")).contains("bench_file.weft-form.json");
        var brought = post(
                "/api/forms/brought",
                "{\"table\":\"bench_elsewhere\",\"file\":" + file.http().body() + "}");
        assertThat(brought.status()).isEqualTo(201);
        assertThat(brought.json().get("form").asString()).isEqualTo("bench_file-2");
        assertThat(brought.json().get("untied").get(0).get("column").asString()).isEqualTo("ph");
        var frays = state("bench_file-2").get("frays");
        assertThat(frays.get(0).get("id").asString()).isEqualTo("gone ph");
        assertThat(post("/api/forms/brought", "{\"table\":\"bench_elsewhere\",\"file\":{\"format\":\"other\"}}")
                        .status())
                .isEqualTo(400);
    }

    @Test
    void earlierVersionsAreComparedAndPutBackAndFormsAreCopiedAndArchived() {
        var form = form("bench_versions", "{\"title\":\"pH\"}");
        change(form, 1, "\"label\":\"pH\"", "\"label\":\"Acidity\"");
        post("/api/forms/" + form + "/publish", "");
        var path = "/api/forms/" + form + "/versions";
        assertThat(get(path).json().get(0).get("words").get(0).asString()).isEqualTo("pH is called Acidity now");
        assertThat(get(path + "/1/changes").json()).hasSize(1);
        assertThat(post(path + "/1/restore", "", "If-Match", "\"2\"").http().body())
                .contains("\"label\":\"pH\"");
        assertThat(get(path + "/2/changes").json()).hasSize(1);
        var back = post("/api/forms/" + form + "/step?way=back", "", "If-Match", "\"3\"");
        assertThat(back.http().body()).contains("\"label\":\"Acidity\"");
        assertThat(post("/api/forms/" + form + "/copy", "").json().get("title").asString())
                .endsWith(" copy");
        assertThat(send("PUT", "/api/forms/" + form + "/archived", "{\"archived\":true}")
                        .status())
                .isEqualTo(204);
    }

    @Test
    void aRemovedColumnIsToldBeforeAndItsFieldHiddenWhereFormsGoOn() {
        var form = form("bench_removed", "{\"title\":\"Site\"},{\"title\":\"pH\",\"required\":true}");
        var path = "/api/tables/bench_removed/columns/";
        assertThat(get(path + "ph/used").json().at("/forms/0").asString()).isEqualTo("Bench removed");
        assertThat(send("DELETE", path + "ph", "").status()).isEqualTo(204);
        assertThat(get("/api/doors/" + form + "/published").http().body())
                .contains("\"column\":\"site\"")
                .doesNotContain("\"column\":\"ph\"");
        assertThat(post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"QB-03\"}}")
                        .status())
                .isEqualTo(201);
        assertThat(get("/api/forms/" + form + "/bench").http().body()).contains("\"gone ph\"");
        assertThat(get("/api/forms")
                        .json()
                        .valueStream()
                        .filter(each -> !each.get("lost").isEmpty()))
                .extracting(each -> each.get("id").asString() + each.get("lost"))
                .contains(form + "[\"pH\"]");
    }

    @Test
    void aTableIsDeletedOnlyByItsTitle() {
        form("bench_deleted", "{\"title\":\"pH\"}");
        var path = "/api/tables/bench_deleted";
        assertThat(get(path + "/dependents").json().get("forms")).hasSize(1);
        assertThat(send("DELETE", path, null).status()).isEqualTo(400);
        var title = get(path).json().get("title").asString();
        assertThat(send("DELETE", path + "?named=" + title.replace(" ", "%20"), null)
                        .status())
                .isEqualTo(204);
        assertThat(get(path).status()).isEqualTo(404);
        assertThat(get("/api/forms/bench_deleted").status()).isEqualTo(404);
    }
}
