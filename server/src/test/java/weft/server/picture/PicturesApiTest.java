package weft.server.picture;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;

import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.HexFormat;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class PicturesApiTest {

    private static byte[] jpeg(int width, int height) throws Exception {
        var image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        var pen = image.createGraphics();
        pen.setColor(Color.RED);
        pen.fillRect(0, 0, width / 2, height);
        var bytes = new ByteArrayOutputStream();
        ImageIO.write(image, "jpg", bytes);
        return bytes.toByteArray();
    }

    /** The same file with a note of the camera that it was held on its side: turn by a quarter to see it upright. */
    private static byte[] onItsSide(byte[] jpeg) {
        var note = HexFormat.of()
                .parseHex("ffe1002245786966000049492a00080000000100120103000100000006000000" + "00000000");
        var bytes = new ByteArrayOutputStream();
        bytes.write(jpeg, 0, 2);
        bytes.writeBytes(note);
        bytes.write(jpeg, 2, jpeg.length - 2);
        return bytes.toByteArray();
    }

    private static HttpResponse<String> upload(byte[] file) throws Exception {
        var body = new ByteArrayOutputStream();
        body.writeBytes(("--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a.txt\"\r\n"
                        + "Content-Type: text/plain\r\n\r\n")
                .getBytes());
        body.writeBytes(file);
        body.writeBytes("\r\n--x--\r\n".getBytes());
        try (var client = HttpClient.newHttpClient()) {
            return client.send(
                    TestServer.request("/api/pictures")
                            .header("Content-Type", "multipart/form-data; boundary=x")
                            .POST(BodyPublishers.ofByteArray(body.toByteArray()))
                            .build(),
                    BodyHandlers.ofString());
        }
    }

    private static BufferedImage shown(String id, String query) throws Exception {
        var connection = URI.create(TestServer.url() + "/api/pictures/" + id + query)
                .toURL()
                .openConnection();
        connection.setRequestProperty("Cookie", TestServer.builder().get(1));
        try (var in = connection.getInputStream()) {
            return ImageIO.read(in);
        }
    }

    @Test
    void aPictureIsKnownByItsContentTurnedUprightScaledAndKeptWithItsRecord() throws Exception {
        var kept = upload(onItsSide(jpeg(3_000, 1_000)));
        assertThat(kept.statusCode()).as(kept.body()).isEqualTo(201);
        var id = JsonMapper.shared().readTree(kept.body()).get("id").asString();
        var upright = shown(id, "");
        assertThat(upright.getHeight()).isEqualTo(2_000);
        assertThat(upright.getWidth()).isBetween(666, 667);
        assertThat(new Color(upright.getRGB(300, 100)).getRed()).isGreaterThan(200);
        assertThat(new Color(upright.getRGB(300, 1_900)).getRed()).isLessThan(60);
        assertThat(shown(id, "?small=true").getHeight()).isEqualTo(240);

        var form = form("pictured", "{\"title\":\"Site\"},{\"title\":\"Photo\",\"type\":\"picture\"}");
        var saved = post("/api/doors/" + form + "/records", "{\"values\":{\"photo\":\"" + id + "\"}}");
        assertThat(saved.json().get("values").get("photo").asString()).isEqualTo(id);
        assertThat(post("/api/doors/" + form + "/records", "{\"values\":{\"photo\":\"a.jpg\"}}")
                        .http()
                        .body())
                .contains("Drop one here");
        assertThat(post(
                                "/api/doors/" + form + "/records",
                                "{\"values\":{\"photo\":\"00000000-0000-0000-0000-000000000000\"}}")
                        .status())
                .isEqualTo(422);
        assertThat(get("/api/doors/" + form + "/records?where=photo:filled")
                        .json()
                        .get("records"))
                .hasSize(1);
    }

    @Test
    void whatIsNoPictureIsRefusedInASentence() throws Exception {
        for (var bad :
                new byte[][] {"<svg onload='x'/>".getBytes(), new byte[0], java.util.Arrays.copyOf(jpeg(50, 50), 300)
                }) {
            var refused = upload(bad);
            assertThat(refused.statusCode()).isEqualTo(400);
            assertThat(refused.body()).contains("picture");
        }
    }
}
