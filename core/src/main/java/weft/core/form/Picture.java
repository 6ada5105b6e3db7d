package weft.core.form;

/**
 * A picture on a form, such as a sketch of where to look.
 *
 * @param image a PNG, JPEG or WebP file as a data URL (RFC 2397), or empty while none is chosen
 * @param words what it shows, for those who cannot see it
 */
public record Picture(String id, String image, String words, int width, int height) implements Item {

    @Override
    public Picture wide(int tracks) {
        return new Picture(id, image, words, tracks, height);
    }

    @Override
    public Picture named(String other) {
        return new Picture(other, image, words, width, height);
    }
}
