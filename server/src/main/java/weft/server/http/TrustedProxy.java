package weft.server.http;

import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.catalina.valves.RemoteIpValve;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Where requests come from, as the proxies say that the operator names, and nobody else: whoever else sends such headers is
 * where they are. The name that Weft is asked by is that of the request itself.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class TrustedProxy implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {

    /** The setting for a proxy on the same machine. */
    private static final String HERE = "native";

    private static final String LOOPBACK = "127\\.\\d{1,3}\\.\\d{1,3}\\.\\d{1,3}|0:0:0:0:0:0:0:1(?:%.*)?|::1(?:%.*)?";

    private final List<String> proxies;

    /** With the addresses of proxies, or none. */
    TrustedProxy(@Value("${weft.proxy}") List<String> proxies) {
        this.proxies = proxies.stream()
                .map(String::strip)
                .filter(proxy -> !proxy.isEmpty() && !proxy.equals("none"))
                .toList();
    }

    @Override
    public void customize(TomcatServletWebServerFactory factory) {
        if (proxies.isEmpty()) {
            return;
        }
        var valve = new RemoteIpValve();
        valve.setInternalProxies(proxies.stream()
                .map(proxy -> proxy.equals(HERE) ? LOOPBACK : Pattern.quote(proxy))
                .collect(Collectors.joining("|")));
        valve.setRemoteIpHeader("X-Forwarded-For");
        valve.setProtocolHeader("X-Forwarded-Proto");
        factory.addEngineValves(valve);
    }
}
