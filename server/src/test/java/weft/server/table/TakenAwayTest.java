package weft.server.table;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.post;
import static weft.server.TestServer.program;
import static weft.server.TestServer.send;
import static weft.server.TestServer.upload;

import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** What another program takes out of the database is told by name, and Weft can let go of it. */
@ExtendWith(TestServer.class)
class TakenAwayTest {

    private static Answer save(String door) {
        return post("/api/doors/" + door + "/records", "{\"values\":{\"site\":\"QB-03\"}}");
    }

    @Test
    void aColumnIsToldByNameAndLetGo() throws SQLException {
        var door = form(
                "taken_column",
                "{\"title\":\"Site\",\"unique\":true},{\"title\":\"Code\",\"unique\":true},{\"title\":\"pH\",\"type\":\"decimal\"}");
        program("alter table records.taken_column drop column code");
        var refused = save(door);
        assertThat(refused.status()).isEqualTo(409);
        assertThat(refused.json().get("detail").asString())
                .isEqualTo("Another program removed Code of Taken column from the database. Nothing was written."
                        + " A builder can remove it in Tables too, or restore it in the database.");
        assertThat(upload("others.csv", "Site,Depth\nQB-03,4\n").status()).isEqualTo(201);
        assertThat(send("DELETE", "/api/tables/taken_column/columns/code", "").status())
                .isEqualTo(204);
        assertThat(save(door).status()).isEqualTo(201);
    }

    @Test
    void whoeverComesByASecretAddressIsToldNoNames() throws SQLException {
        var form = form("taken_secret", "{\"title\":\"Site\"},{\"title\":\"Holt\"}");
        post(
                "/api/forms/" + form + "/doors",
                "{\"id\":\"taken-link\",\"title\":\"Link\",\"may\":[\"add\"],\"who\":{\"link\":true},"
                        + "\"fields\":{\"leftOut\":[\"holt\"],\"locked\":[]}}");
        var address = post("/api/forms/" + form + "/doors/taken-link/link", "")
                .json()
                .get("address")
                .asString();
        program("alter table records.taken_secret drop column holt");
        var refused = as(
                List.of("Authorization", "Bearer " + address.replaceFirst(".*/l/", "")),
                "POST",
                "/api/doors/taken-link/records",
                "{\"values\":{\"site\":\"QB-03\"}}");
        assertThat(refused.status()).isEqualTo(409);
        assertThat(refused.http().body()).doesNotContainIgnoringCase("holt").doesNotContain("Taken secret");
        send("DELETE", "/api/tables/taken_secret/columns/holt", "");
    }

    @Test
    void aTableIsToldByNameAndLetGo() throws SQLException {
        var door = form("taken_table", "{\"title\":\"Site\"}");
        program("drop table records.taken_table");
        var refused = save(door);
        assertThat(refused.status()).isEqualTo(409);
        assertThat(refused.json().get("detail").asString()).contains("removed Taken table from the database");
        assertThat(send("DELETE", "/api/tables/taken_table?named=Taken%20table", "")
                        .status())
                .isEqualTo(204);
        assertThat(save(door("taken_other")).status()).isEqualTo(201);
    }

    private static String door(String name) {
        return form(name, "{\"title\":\"Site\"}");
    }
}
