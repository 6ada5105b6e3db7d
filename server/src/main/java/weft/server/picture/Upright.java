package weft.server.picture;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.Semaphore;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import net.coobird.thumbnailator.Thumbnails;
import weft.server.http.Problem;
import weft.store.picture.Pictures.Picture;

/**
 * A picture as it is kept: known by its content and not by its name, turned upright by what the camera noted (Exif), no larger
 * than of use, and without anything else that the file held.
 *
 * @param small for lists
 */
record Upright(Picture picture, byte[] small) {

    private static final int LARGEST_SIDE = 2_000;
    private static final int SMALL_SIDE = 240;
    /** A file of few bytes may unpack to a picture that fills the memory: 160 MB, as 53 million points in 24 bits are. */
    private static final long MOST_BITS = 160L * 1_000_000 * 8;
    /** So many are unpacked at once; the others wait for their turn. */
    private static final Semaphore UNPACKING = new Semaphore(2, true);

    private static final Set<String> KNOWN = Set.of("jpeg", "png", "gif", "bmp");

    static Upright of(byte[] file) {
        var format = format(file);
        // What may be see-through stays so.
        var kept = format.equals("jpeg") ? "jpg" : "png";
        UNPACKING.acquireUninterruptibly();
        try {
            var upright = scaled(file, LARGEST_SIDE);
            return new Upright(
                    new Picture(
                            kept.equals("jpg") ? "image/jpeg" : "image/png",
                            upright.getWidth(),
                            upright.getHeight(),
                            written(upright, kept)),
                    written(smaller(upright, SMALL_SIDE), kept));
        } catch (IOException | RuntimeException e) {
            throw Problem.malformed("The picture is damaged and can't be shown. Choose another file.");
        } finally {
            UNPACKING.release();
        }
    }

    private static String format(byte[] file) {
        try (var input = ImageIO.createImageInputStream(new ByteArrayInputStream(file))) {
            var readers = ImageIO.getImageReaders(input);
            if (!readers.hasNext()) {
                throw notOne();
            }
            var reader = readers.next();
            try {
                reader.setInput(input, true, true);
                var format = reader.getFormatName().toLowerCase(Locale.ROOT);
                if (!KNOWN.contains(format)) {
                    throw notOne();
                }
                if ((long) reader.getWidth(0) * reader.getHeight(0) * bits(reader) > MOST_BITS) {
                    throw Problem.malformed("The picture has too many points to be shown. Make it smaller first.");
                }
                return format;
            } finally {
                reader.dispose();
            }
        } catch (IOException e) {
            throw notOne();
        }
    }

    /** How many bits each point of it has once it is unpacked; never fewer than it has on a screen. */
    private static int bits(ImageReader reader) throws IOException {
        var raw = reader.getRawImageType(0);
        return raw == null ? 64 : Math.max(24, raw.getColorModel().getPixelSize());
    }

    private static Problem notOne() {
        return Problem.malformed("This is not a picture that can be shown. Choose a JPEG, PNG, GIF or BMP file.");
    }

    private static BufferedImage scaled(byte[] file, int side) throws IOException {
        return smaller(Thumbnails.of(new ByteArrayInputStream(file)).scale(1).asBufferedImage(), side);
    }

    private static BufferedImage smaller(BufferedImage image, int side) throws IOException {
        return Math.max(image.getWidth(), image.getHeight()) <= side
                ? image
                : Thumbnails.of(image).size(side, side).asBufferedImage();
    }

    private static byte[] written(BufferedImage image, String format) throws IOException {
        var bytes = new ByteArrayOutputStream();
        Thumbnails.of(image).scale(1).outputFormat(format).outputQuality(0.88).toOutputStream(bytes);
        return bytes.toByteArray();
    }
}
