package weft.e2e.bench;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublisher;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.e2e.Signed;

/** A client of the API. */
record Http(String url, HttpClient client) {

    static Http to(String url) {
        return new Http(
                url,
                HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build());
    }

    JsonNode post(String path, String body) throws IOException, InterruptedException {
        return send(path, BodyPublishers.ofString(body), "application/json", "");
    }

    JsonNode send(String path, BodyPublisher body, String type, String key) throws IOException, InterruptedException {
        var request = Signed.request(url, path).header("Content-Type", type).POST(body);
        if (!key.isEmpty()) {
            request.header("Idempotency-Key", key);
        }
        var answer = client.send(request.build(), BodyHandlers.ofString());
        if (answer.statusCode() / 100 != 2) {
            throw new IOException(path + " answered " + answer.statusCode() + " " + answer.body());
        }
        return JsonMapper.shared().readTree(answer.body());
    }

    JsonNode get(String path) throws IOException, InterruptedException {
        return JsonMapper.shared()
                .readTree(client.send(Signed.request(url, path).build(), BodyHandlers.ofString())
                        .body());
    }

    void put(String path, String body, int seen) throws IOException, InterruptedException {
        var request = Signed.request(url, path)
                .header("Content-Type", "application/json")
                .header("If-Match", "\"" + seen + "\"")
                .PUT(BodyPublishers.ofString(body));
        var answer = client.send(request.build(), BodyHandlers.ofString());
        if (answer.statusCode() != 200) {
            throw new IOException(path + " answered " + answer.statusCode() + " " + answer.body());
        }
    }
}
