package weft.store.imports;

import static weft.store.schema.Tables.IMPORT_PIECE;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Enumeration;
import java.util.NoSuchElementException;
import org.jooq.DSLContext;

/** The bytes of a file brought in, kept in the database in pieces so that no server ever holds the whole. */
final class Pieces {

    private static final int PIECE = 512 * 1024;
    private static final int BEGINNING = 64 * 1024;

    private Pieces() {}

    /** What was learnt of a file while its bytes were kept. */
    record StoredFile(RowFile how, long bytes) {}

    /** Keeps the bytes and finds out how they are written. */
    static StoredFile keep(DSLContext within, String id, InputStream bytes) throws IOException {
        var utf8 = new Utf8Check();
        var beginning = new byte[0];
        long total = 0;
        for (int place = 0; ; place++) {
            var piece = bytes.readNBytes(PIECE);
            if (piece.length == 0) {
                break;
            }
            if (place == 0) {
                beginning = Arrays.copyOf(piece, Math.min(piece.length, BEGINNING));
            }
            utf8.add(piece);
            total += piece.length;
            within.insertInto(IMPORT_PIECE, IMPORT_PIECE.IMPORT_ID, IMPORT_PIECE.PLACE, IMPORT_PIECE.BYTES)
                    .values(id, place, piece)
                    .execute();
        }
        if (OdsFile.packed(beginning)) {
            OdsFile.check(() -> read(within, id));
            return new StoredFile(new OdsFile(0), total);
        }
        if (JsonFile.begins(new String(beginning, StandardCharsets.UTF_8))) {
            return new StoredFile(new JsonFile(), total);
        }
        var charset = utf16(beginning)
                ? StandardCharsets.UTF_16
                : utf8.holds() ? StandardCharsets.UTF_8 : Charset.forName("windows-1252");
        return new StoredFile(new CsvFile(charset, CsvFile.separatorOf(new String(beginning, charset))), total);
    }

    private static boolean utf16(byte[] beginning) {
        return beginning.length > 1
                && ((beginning[0] == (byte) 0xFE && beginning[1] == (byte) 0xFF)
                        || (beginning[0] == (byte) 0xFF && beginning[1] == (byte) 0xFE));
    }

    /** The bytes again, a piece at a time. */
    static InputStream read(DSLContext sql, String id) {
        return new SequenceInputStream(new Enumeration<>() {
            private int place = 0;
            private byte[] next = fetch();

            private byte[] fetch() {
                return sql.select(IMPORT_PIECE.BYTES)
                        .from(IMPORT_PIECE)
                        .where(IMPORT_PIECE.IMPORT_ID.eq(id))
                        .and(IMPORT_PIECE.PLACE.eq(place++))
                        .fetchOne(IMPORT_PIECE.BYTES);
            }

            @Override
            public boolean hasMoreElements() {
                return next != null;
            }

            @Override
            public InputStream nextElement() {
                if (next == null) {
                    throw new NoSuchElementException();
                }
                var piece = new ByteArrayInputStream(next);
                next = fetch();
                return piece;
            }
        });
    }

    /** Says whether bytes, coming in pieces, are UTF-8 as RFC 3629 has it. */
    private static final class Utf8Check {
        private final CharsetDecoder decoder = StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        private final CharBuffer ignored = CharBuffer.allocate(PIECE + 8);
        private byte[] rest = new byte[0];
        private boolean holds = true;

        void add(byte[] piece) {
            if (!holds) {
                return;
            }
            var bytes = ByteBuffer.allocate(rest.length + piece.length)
                    .put(rest)
                    .put(piece)
                    .flip();
            ignored.clear();
            holds = !decoder.decode(bytes, ignored, false).isError();
            rest = new byte[bytes.remaining()];
            bytes.get(rest);
        }

        boolean holds() {
            return holds && rest.length == 0;
        }
    }
}
