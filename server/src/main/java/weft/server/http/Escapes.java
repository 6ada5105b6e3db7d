package weft.server.http;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** What stands percent-encoded in addresses (RFC 3986, section 2.1). */
final class Escapes {

    private Escapes() {}

    /** Whether it is text in UTF-8 and without the character of code 0, which nothing can hold. */
    static boolean sound(@Nullable String part) {
        if (part == null || part.indexOf('%') < 0) {
            return true;
        }
        var bytes = new ByteArrayOutputStream(part.length());
        for (int at = 0; at < part.length(); at++) {
            char c = part.charAt(at);
            if (c != '%') {
                bytes.writeBytes(String.valueOf(c).getBytes(StandardCharsets.UTF_8));
                continue;
            }
            int high = at + 1 < part.length() ? Character.digit(part.charAt(at + 1), 16) : -1;
            int low = at + 2 < part.length() ? Character.digit(part.charAt(at + 2), 16) : -1;
            if (high < 0 || low < 0) {
                return false;
            }
            bytes.write(high * 16 + low);
            at += 2;
        }
        try {
            var text = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes.toByteArray()));
            return text.chars().noneMatch(c -> c == 0);
        } catch (CharacterCodingException notText) {
            return false;
        }
    }
}
