package weft.server.entry;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import weft.core.door.Pass;
import weft.server.http.Problem;
import weft.store.record.SaveKey;

/** Idempotency keys of requests, as the IETF's draft on the header has them. */
final class Keys {

    private Keys() {}

    /** The key together with what it was given for. The order of the values in the request does not make it another one. */
    static SaveKey of(Pass pass, String given, Map<String, @Nullable JsonNode> values) {
        return of(pass, given, new TreeMap<>(values).toString());
    }

    /** The same of what is spelled so. */
    static SaveKey of(Pass pass, String given, String body) {
        // What a header can hold and no server spells otherwise (RFC 9110): visible signs and blanks.
        if (given.isBlank() || given.length() > SaveKey.LONGEST || !given.matches("[ -~]+")) {
            throw Problem.malformed("An Idempotency-Key has from 1 to " + SaveKey.LONGEST
                    + " letters, digits, signs and blanks of ASCII.");
        }
        try {
            return new SaveKey(
                    pass.theirs(given),
                    MessageDigest.getInstance("SHA-256").digest(body.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }
}
