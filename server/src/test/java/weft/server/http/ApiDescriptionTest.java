package weft.server.http;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class ApiDescriptionTest {

    @Test
    void theWebAppsTypesAreGeneratedFromThisApi() throws IOException {
        var now = (ObjectNode) TestServer.get("/v3/api-docs/made").json();
        // Where it is served is told once somebody has asked, and is another place each time.
        now.remove("servers");
        var known = JsonMapper.shared().readTree(Files.readString(Path.of("../web/openapi.json")));
        var written = Path.of("target/openapi.json");
        Files.writeString(written, now.toPrettyString() + "\n");
        assertThat(now.equals(known))
                .as("The API changed. Copy server/%s to web/openapi.json, then build the pages.", written)
                .isTrue();
    }

    @Test
    void everyAddressOfTheWebAppGetsItsPage() {
        assertThat(TestServer.get("/d/samples").status()).isEqualTo(200);
        assertThat(TestServer.get("/d/samples").header("Content-Type")).startsWith("text/html");
        assertThat(TestServer.get("/assets/none.js").status()).isEqualTo(404);
        assertThat(TestServer.get("/actuator/health").json().get("status").asString())
                .isEqualTo("UP");
    }
}
