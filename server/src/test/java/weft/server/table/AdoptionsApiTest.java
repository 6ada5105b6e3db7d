package weft.server.table;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.program;
import static weft.server.TestServer.send;

import java.sql.SQLException;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;

/** Tables of another program by the API: seen beforehand, adopted, entered into, let go; and a view, which takes nothing. */
@ExtendWith(TestServer.class)
class AdoptionsApiTest {

    @BeforeAll
    static void anotherProgramHasTables() throws SQLException {
        program("create schema shop; create type shop.kind as enum ('low', 'high');"
                + " create table shop.item (id int generated always as identity primary key, name varchar(5) not null unique,"
                + "   kind shop.kind not null default 'low', cost numeric(4,1) check (cost >= 0.5), doc jsonb);"
                + " insert into shop.item (name) values ('one');"
                + " create view shop.names as select id, name from shop.item;"
                + " create table shop.odd (doc jsonb not null)");
    }

    @AfterAll
    static void theyGo() throws SQLException {
        program("drop schema shop cascade");
    }

    @Test
    void aTableIsAdoptedEnteredIntoAndLetGo() throws SQLException {
        var seen = get("/api/adoptable/shop/item").json();
        assertThat(seen.get("refused").size()).isZero();
        assertThat(seen.get("lock").asDouble()).isPositive();
        assertThat(seen.get("statements").toString()).contains("add column _id bigint");
        var made = post("/api/adoptable/shop/item", "{\"title\":\"Goods\"}");
        assertThat(made.status()).isEqualTo(201);
        assertThat(made.json().get("table").asString()).isEqualTo("goods");
        assertThat(get("/api/tables/goods").json().get("adopted").asString()).isEqualTo("shop.item");
        assertThat(get("/api/adoptable")
                        .json()
                        .valueStream()
                        .filter(each -> each.get("name").asString().equals("item"))
                        .map(each -> each.get("table").asString()))
                .containsExactly("goods");

        var tooLong = post("/api/doors/goods/records", "{\"values\":{\"name\":\"longer\",\"cost\":\"0.4\"}}");
        assertThat(tooLong.status()).isEqualTo(422);
        assertThat(tooLong.json().get("findings").toString())
                .contains("Name may have 5 characters at most. This has 6.", "Cost must be between 0.5 and 999.9");
        // What the database alone gives is not taken from anybody.
        var saved = post("/api/doors/goods/records", "{\"values\":{\"id\":\"77\",\"name\":\"two\",\"doc\":\"{}\"}}");
        assertThat(saved.status()).isEqualTo(201);
        assertThat(saved.json().get("row").asInt()).isEqualTo(2);
        assertThat(saved.json().get("values").toString())
                .isEqualTo("{\"id\":2,\"name\":\"two\",\"kind\":\"low\",\"cost\":null,\"doc\":null}");
        var taken = post("/api/doors/goods/records", "{\"values\":{\"name\":\"two\"}}");
        assertThat(taken.json().get("findings").get(0).get("code").asString()).isEqualTo("unique");
        program("update shop.item set cost = 2.5 where name = 'two'");
        var address = "/api/doors/goods/records/" + saved.json().get("id").asLong();
        var change = "{\"values\":{\"name\":\"two\",\"kind\":\"high\"}}";
        assertThat(send("PUT", address, change, "If-Match", "\"1\"").status()).isEqualTo(412);
        assertThat(send("PUT", address, change, "If-Match", "\"2\"")
                        .json()
                        .get("values")
                        .get("kind")
                        .asString())
                .isEqualTo("high");
        var column = send("PUT", "/api/tables/goods/columns/name", "{\"type\":\"longtext\"}");
        assertThat(column.status()).isEqualTo(400);
        assertThat(column.http().body()).contains("was not made by Weft");
        var titled = "{\"type\":\"text\",\"title\":\"Called\",\"required\":true,\"unique\":true}";
        assertThat(send("PUT", "/api/tables/goods/columns/name", titled).status())
                .isEqualTo(200);
        assertThat(send("DELETE", "/api/tables/goods?named=Goods", "").status()).isEqualTo(204);
        program("insert into shop.item (name) values ('three')");
    }

    @Test
    void aViewIsSeenAndTakesNothing() {
        assertThat(post("/api/adoptable/shop/names", "{\"key\":\"name\"}").status())
                .isEqualTo(400);
        assertThat(post("/api/adoptable/shop/names", "{}").status()).isEqualTo(201);
        assertThat(get("/api/doors/names/records").json().get("records").size()).isPositive();
        assertThat(get("/api/doors/names").json().get("may").toString()).isEqualTo("[\"see\",\"export\"]");
        assertThat(post("/api/doors/names/records", "{\"values\":{\"name\":\"x\"}}")
                        .status())
                .isEqualTo(403);
        send("DELETE", "/api/tables/names?named=Names", "");
    }

    @Test
    void whatCannotBeAdoptedOrIsNotThereIsSaid() {
        var odd = post("/api/adoptable/shop/odd", "{}");
        assertThat(odd.status()).isEqualTo(400);
        assertThat(odd.http().body()).contains("Every row needs a value in doc");
        assertThat(get("/api/adoptable/shop/none").status()).isEqualTo(404);
        assertThat(post("/api/adoptable/weft/person", "{}").status()).isEqualTo(404);
        assertThat(post("/api/adoptable/records/none", "{}").status()).isEqualTo(404);
    }
}
