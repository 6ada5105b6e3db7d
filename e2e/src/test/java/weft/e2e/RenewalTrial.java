package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.DriverManager;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import weft.store.local.LocalPostgres;

/**
 * An older Weft and this one on the same database, whose schema this one brings up while people key by the older: {@code ./weft
 * trial renewal}. The classes of the older are where the property {@code weft.older} says. Too long for every run of the tests.
 */
class RenewalTrial {

    private static final String SCHEMA =
            "select max(version::int) from weft.flyway_schema_history where version is not null";

    @Test
    void oneAfterTheOtherIsRenewedWhileAllKey() throws Exception {
        var folder = LocalWeft.folder();
        try (var postgres = LocalPostgres.start(folder.resolve("database"), List.of())) {
            var settings = Map.of(
                    "WEFT_DATABASE_URL",
                    postgres.url() + "?user=" + postgres.user() + "&password=" + postgres.password());
            var older = new ServerProcess(folder.resolve("older"), settings, System.getProperty("weft.older"));
            var another = new ServerProcess(folder.resolve("another"), settings, System.getProperty("weft.older"));
            var newer = new ServerProcess(folder.resolve("newer"), settings);
            try {
                older.start();
                another.start();
                older.table("t");
                older.send("POST", "/api/forms", "{\"table\":\"t\"}", "");
                older.send("POST", "/api/forms/t/publish", "", "");
                int before = schema(postgres);
                try (var stay = new Keyers(older, older.url())) {
                    assertThat(stay.more(200)).isTrue();
                    another.stop();
                    newer.start();
                    try (var come = new Keyers(newer, newer.url())) {
                        assertThat(come.more(200)).isTrue();
                        assertThat(stay.more(200)).isTrue();
                        // The older one goes on making what it knows, beside the newer one.
                        older.table("u");
                        assertThat(newer.send("POST", "/api/forms", "{\"table\":\"u\"}", "")
                                        .statusCode())
                                .isEqualTo(201);
                        assertThat(older.send("POST", "/api/doors/u/records", "{\"values\":{\"a\":\"1\"}}", "u1")
                                        .statusCode())
                                .isEqualTo(201);
                        stay.told("by the older version");
                        assertThat(come.more(200)).isTrue();
                        come.told("by the newer version");
                    }
                }
                System.out.printf("The schema of the database went from %d to %d.%n", before, schema(postgres));
                assertThat(schema(postgres)).isGreaterThan(before);
                older.stop();
                newer.stop();
            } finally {
                older.kill();
                newer.kill();
            }
        }
        LocalWeft.remove(folder);
    }

    private static int schema(LocalPostgres postgres) throws Exception {
        try (var connection = DriverManager.getConnection(postgres.url(), postgres.user(), postgres.password());
                var found = connection.createStatement().executeQuery(SCHEMA)) {
            found.next();
            return found.getInt(1);
        }
    }
}
