package weft.store.people;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.HexFormat;

/** What opens something to whoever knows it. It has 192 random bits, is told once, and is kept as its SHA-256 only. */
public record Secret(String text) {

    private static final SecureRandom RANDOM = new SecureRandom();
    private static final int BYTES = 24;

    /** A new one. */
    public static Secret random() {
        var bytes = new byte[BYTES];
        RANDOM.nextBytes(bytes);
        return new Secret(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes));
    }

    /** As it is kept, in hexadecimal digits. */
    public String hash() {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }
}
