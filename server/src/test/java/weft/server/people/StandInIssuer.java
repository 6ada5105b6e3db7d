package weft.server.people;

import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.JWSHeader;
import com.nimbusds.jose.crypto.RSASSASigner;
import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.jose.jwk.RSAKey;
import com.nimbusds.jose.jwk.gen.RSAKeyGenerator;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.SignedJWT;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.Date;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import tools.jackson.databind.json.JsonMapper;

/** An issuer of OpenID Connect that lets in whoever it is told to, without asking: discovery, codes, signed tokens. */
final class StandInIssuer implements AutoCloseable {

    private final HttpServer server;
    private final RSAKey key;
    private final Map<String, String> nonces = new ConcurrentHashMap<>();

    /** Who comes next, as the claims of their token; the signature is false where they say so. */
    volatile Map<String, Object> next = Map.of();

    volatile boolean forged;

    StandInIssuer() throws Exception {
        key = new RSAKeyGenerator(2048).keyID("stand-in").generate();
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", this::answer);
        server.start();
    }

    String url() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    private void answer(HttpExchange exchange) throws IOException {
        try (exchange) {
            switch (exchange.getRequestURI().getPath()) {
                case "/.well-known/openid-configuration" ->
                    json(
                            exchange,
                            Map.of(
                                    "issuer",
                                    url(),
                                    "authorization_endpoint",
                                    url() + "/authorize",
                                    "token_endpoint",
                                    url() + "/token",
                                    "jwks_uri",
                                    url() + "/keys",
                                    "response_types_supported",
                                    List.of("code"),
                                    "subject_types_supported",
                                    List.of("public"),
                                    "id_token_signing_alg_values_supported",
                                    List.of("RS256")));
                case "/authorize" -> {
                    var asked = query(exchange.getRequestURI().getRawQuery());
                    var code = "code" + nonces.size();
                    nonces.put(code, asked.get("nonce"));
                    exchange.getResponseHeaders()
                            .add(
                                    "Location",
                                    asked.get("redirect_uri") + "?code=" + code + "&state=" + asked.get("state"));
                    exchange.sendResponseHeaders(302, -1);
                }
                case "/token" -> {
                    var asked = query(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
                    json(
                            exchange,
                            Map.of(
                                    "access_token",
                                    "none",
                                    "token_type",
                                    "Bearer",
                                    "expires_in",
                                    60,
                                    "id_token",
                                    token(nonces.remove(asked.get("code")))));
                }
                case "/keys" -> json(exchange, new JWKSet(key.toPublicJWK()).toJSONObject());
                default -> exchange.sendResponseHeaders(404, -1);
            }
        } catch (Exception e) {
            throw new IOException(e);
        }
    }

    private String token(String nonce) throws Exception {
        var claims = new JWTClaimsSet.Builder()
                .issuer(url())
                .subject("1")
                .audience("weft")
                .issueTime(new Date())
                .expirationTime(Date.from(Instant.now().plusSeconds(60)))
                .claim("nonce", nonce);
        next.forEach(claims::claim);
        var jwt = new SignedJWT(
                new JWSHeader.Builder(JWSAlgorithm.RS256).keyID("stand-in").build(), claims.build());
        jwt.sign(new RSASSASigner(forged ? new RSAKeyGenerator(2048).generate() : key));
        return jwt.serialize();
    }

    private static Map<String, String> query(String text) {
        return Arrays.stream(text.split("&"))
                .map(pair -> pair.split("=", 2))
                .collect(Collectors.toMap(pair -> pair[0], pair -> URLDecoder.decode(pair[1], StandardCharsets.UTF_8)));
    }

    private static void json(HttpExchange exchange, Map<String, ?> body) throws IOException {
        var bytes = JsonMapper.shared().writeValueAsBytes(body);
        exchange.getResponseHeaders().add("Content-Type", "application/json");
        exchange.sendResponseHeaders(200, bytes.length);
        exchange.getResponseBody().write(bytes);
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
