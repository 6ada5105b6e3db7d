package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.net.Inet4Address;
import java.net.InetAddress;
import java.net.NetworkInterface;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.SecureRandom;
import java.security.cert.Certificate;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLSocket;
import javax.net.ssl.TrustManager;
import javax.net.ssl.X509TrustManager;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import weft.store.local.LocalPostgres;

/** Weft behind a real nginx with TLS, set up as the documents for operators say. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class BehindNginxTest {

    private static final Path NGINX = Path.of("/usr/sbin/nginx");
    private static final String NAME = "weft.example.org";
    private static final String SPOOFED = "203.0.113.77";

    private final Path folder = LocalWeft.folder();
    private final int port = LocalPostgres.freePort();
    private ServerProcess server;
    private Process nginx;
    private SSLContext tls;

    @BeforeAll
    void given() throws Exception {
        assumeTrue(Files.exists(NGINX), "nginx is not installed");
        server = new ServerProcess(folder.resolve("weft"), Map.of("WEFT_HOSTS", NAME, "WEFT_PROXY", "native"));
        server.start();
        server.table("t");
        server.send("POST", "/api/forms", "{\"table\":\"t\"}", "");
        server.send("POST", "/api/forms/t/publish", "", "");
        certificate();
        var config = folder.resolve("nginx.conf");
        Files.writeString(config, """
                daemon off;
                %s
                pid %2$s/nginx.pid;
                error_log stderr;
                worker_processes 1;
                events {}
                http {
                  access_log off;
                  client_body_temp_path %2$s; proxy_temp_path %2$s; fastcgi_temp_path %2$s; uwsgi_temp_path %2$s; scgi_temp_path %2$s;
                  %3$s
                }
                """.formatted(
                        "root".equals(System.getProperty("user.name")) ? "user root;" : "", folder, documented()));
        nginx = new ProcessBuilder(NGINX.toString(), "-e", "stderr", "-p", folder.toString(), "-c", config.toString())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("nginx.log").toFile())
                .start();
        for (int tries = 0; !answers(); tries++) {
            assertThat(tries < 600 && nginx.isAlive())
                    .as(Files.readString(folder.resolve("nginx.log")))
                    .isTrue();
            Thread.sleep(100);
        }
    }

    /** The lines of the documents, on ports and with a certificate that are here. */
    private String documented() throws IOException {
        var block = Pattern.compile("```\\n(server \\{.*?)```", Pattern.DOTALL)
                .matcher(Files.readString(Path.of("../docs/operators.md")));
        assertThat(block.find()).isTrue();
        return block.group(1)
                .replace("listen 443 ssl", "listen " + port + " ssl")
                .replace("/etc/ssl", folder.toString())
                .replace("http://127.0.0.1:8080", server.url());
    }

    private void certificate() throws Exception {
        var store = folder.resolve("store.p12");
        var command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin/keytool").toString(), "-keystore", store.toString()));
        command.addAll(List.of(
                "-genkeypair -keyalg EC -alias weft -storetype PKCS12 -storepass changeit -dname CN=weft.example.org"
                        .split(" ")));
        assertThat(new ProcessBuilder(command).inheritIO().start().waitFor()).isZero();
        var keys = KeyStore.getInstance(store.toFile(), "changeit".toCharArray());
        pem("weft.pem", "CERTIFICATE", keys.getCertificate("weft").getEncoded());
        pem(
                "weft.key",
                "PRIVATE KEY",
                keys.getKey("weft", "changeit".toCharArray()).getEncoded());
        tls = SSLContext.getInstance("TLS");
        tls.init(null, new TrustManager[] {only(keys.getCertificate("weft"))}, new SecureRandom());
    }

    private static X509TrustManager only(Certificate known) {
        return new X509TrustManager() {
            @Override
            public void checkClientTrusted(X509Certificate[] chain, String by) {
                throw new IllegalStateException("No client has a certificate.");
            }

            @Override
            public void checkServerTrusted(X509Certificate[] chain, String by) {
                assertThat(chain[0]).isEqualTo(known);
            }

            @Override
            public X509Certificate[] getAcceptedIssuers() {
                return new X509Certificate[0];
            }
        };
    }

    private void pem(String file, String what, byte[] encoded) throws IOException {
        Files.writeString(
                folder.resolve(file),
                "-----BEGIN %s-----\n%s\n-----END %1$s-----\n"
                        .formatted(
                                what,
                                Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(encoded)));
    }

    @AfterAll
    void ended() throws Exception {
        if (nginx != null) {
            nginx.destroy();
            nginx.waitFor();
        }
        if (server != null) {
            server.stop();
            assertThat(Files.readString(server.said()))
                    .as("a stop is no failure")
                    .doesNotContain("\tat ");
        }
        LocalWeft.remove(folder);
    }

    /** An address of this machine that is not the proxy's own to itself, where there is one. */
    private static InetAddress elsewhere() throws IOException {
        return NetworkInterface.networkInterfaces()
                .flatMap(NetworkInterface::inetAddresses)
                .filter(address -> address instanceof Inet4Address && !address.isLoopbackAddress())
                .findFirst()
                .orElse(InetAddress.getLoopbackAddress());
    }

    private SSLSocket asked(String method, String path, String headers, String body) throws IOException {
        var socket = (SSLSocket) tls.getSocketFactory().createSocket(elsewhere(), port);
        socket.setSoTimeout((int) Duration.ofSeconds(30).toMillis());
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        var out = socket.getOutputStream();
        out.write("%s %s HTTP/1.1\r\nHost: %s\r\nConnection: close\r\nContent-Length: %d\r\n%s\r\n"
                .formatted(method, path, NAME, bytes.length, headers)
                .getBytes(StandardCharsets.US_ASCII));
        out.write(bytes);
        out.flush();
        return socket;
    }

    private String answer(String method, String path, String headers, String body) throws IOException {
        try (var socket = asked(method, path, headers, body)) {
            return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    private boolean answers() {
        try {
            return answer("GET", "/actuator/health/liveness", "", "").startsWith("HTTP/1.1 200");
        } catch (IOException notYet) {
            return false;
        }
    }

    private static String signed() {
        return "Content-Type: application/json\r\nCookie: XSRF-TOKEN=x; SESSION=" + ServerProcess.session()
                + "\r\nX-XSRF-TOKEN: x\r\n";
    }

    private static final String LIES = "X-Forwarded-For: " + SPOOFED
            + "\r\nForwarded: for=203.0.113.77;host=evil.example.net\r\nX-Forwarded-Host: evil.example.net\r\nX-Real-IP: "
            + SPOOFED + "\r\n";

    @Test
    void whereOneComesFromIsWhatTheProxySaw() throws Exception {
        var wrong = "{\"name\":\"tessa\",\"password\":\"no\"}";
        var mine = elsewhere();
        assumeTrue(!mine.isLoopbackAddress(), "this machine has no other address");
        assertThat(answer(
                        "POST",
                        "/api/session",
                        LIES + "Content-Type: application/json\r\nCookie: XSRF-TOKEN=x\r\nX-XSRF-TOKEN: x\r\n",
                        wrong))
                .startsWith("HTTP/1.1 401");
        assertThat(server.json("/api/audit").toString())
                .contains("\"address\":\"" + mine.getHostAddress() + "\"")
                .doesNotContain(SPOOFED);
        // Figures of the server are for this machine alone.
        assertThat(answer("GET", "/actuator/prometheus", LIES, "")).doesNotStartWith("HTTP/1.1 200");
    }

    @Test
    void itIsCalledByItsOwnNameAndCookiesGoByTlsOnly() throws Exception {
        var invited = answer(
                "POST", "/api/people", signed() + LIES, "{\"name\":\"bram\",\"title\":\"Bram Hale\",\"groups\":[]}");
        assertThat(invited).startsWith("HTTP/1.1 201").contains("https://" + NAME + "/invitation/");
        assertThat(answer("GET", "/api/session", "", "")).containsPattern("Set-Cookie: XSRF-TOKEN=[^\\r]*; Secure");
    }

    @Test
    void filesAndEventsGoThrough() throws Exception {
        try (var events = asked("GET", "/api/doors/t/events", signed(), "")) {
            var heard = events.getInputStream();
            var said = new StringBuilder();
            for (boolean saved = false; !said.toString().contains("event:saved"); ) {
                said.append((char) heard.read());
                if (!saved && said.toString().contains("event:ready")) {
                    saved = true;
                    server.send("POST", "/api/doors/t/records", "{\"values\":{\"a\":\"heard\"}}", "");
                }
            }
        }
        var rows = "a\n" + "a row of some length, again and again\n".repeat(60_000);
        var file = "--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"rows.csv\"\r\n\r\n" + rows
                + "\r\n--x--\r\n";
        assertThat(answer(
                        "POST",
                        "/api/imports",
                        signed().replace("application/json", "multipart/form-data; boundary=x"),
                        file))
                .startsWith("HTTP/1.1 201");
    }
}
