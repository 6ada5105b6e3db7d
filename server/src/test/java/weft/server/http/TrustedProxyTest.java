package weft.server.http;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;

/** Where a request comes from, as a server tells that believes the proxies that are named, and nobody else. */
class TrustedProxyTest {

    private static String told(String proxies, String headers) throws IOException {
        var factory = new TomcatServletWebServerFactory(0);
        new TrustedProxy(List.of(proxies.split(","))).customize(factory);
        factory.addEngineValves(new ValveBase(true) {
            @Override
            public void invoke(Request request, Response response) throws IOException {
                response.getOutputStream()
                        .print(request.getRemoteAddr() + " " + request.getScheme() + " " + request.getServerName());
            }
        });
        var server = factory.getWebServer();
        server.start();
        try (var socket = new Socket("127.0.0.1", server.getPort())) {
            socket.getOutputStream()
                    .write(("GET / HTTP/1.1\r\nHost: weft.example.org\r\nConnection: close\r\n" + headers + "\r\n")
                            .getBytes(StandardCharsets.US_ASCII));
            return body(socket.getInputStream());
        } finally {
            server.stop();
        }
    }

    private static String body(InputStream answer) throws IOException {
        var text = new String(answer.readAllBytes(), StandardCharsets.US_ASCII);
        return text.lines()
                .filter(line -> line.contains("weft.example") || line.contains("evil"))
                .findFirst()
                .orElse(text);
    }

    @ParameterizedTest
    @CsvSource({
        // Nobody is named: nobody is believed.
        "none, 203.0.113.9, 127.0.0.1 http",
        // Behind the named one its own word counts, and of what a client sent it nothing.
        "native, 203.0.113.9, 203.0.113.9 https",
        "native, '198.51.100.1, 203.0.113.9', 203.0.113.9 https",
        "native, '198.51.100.1, 10.0.0.7', 10.0.0.7 https",
        "native, '127.0.0.1, 192.168.1.4', 192.168.1.4 https",
        "'127.0.0.1,10.0.0.7', '198.51.100.1, 10.0.0.7', 198.51.100.1 https",
        // Another machine is named: this one is not believed.
        "10.0.0.7, 203.0.113.9, 127.0.0.1 http"
    })
    void onlyWhoeverIsNamedIsBelieved(String proxies, String forwarded, String told) throws IOException {
        assertThat(
                        told(
                                proxies,
                                "X-Forwarded-For: " + forwarded
                                        + "\r\nX-Forwarded-Proto: https\r\nX-Forwarded-Host: evil.example.net\r\nX-Forwarded-Port: 666\r\n"))
                .isEqualTo(told + " weft.example.org");
    }
}
