package weft.core.sentence;

import java.util.List;
import java.util.stream.Collectors;

/** A rule in plain English. What it reads as is what one can type. */
public record Sentence(List<Piece> pieces) {

    public Sentence {
        pieces = List.copyOf(pieces);
    }

    /** The whole of it, in one line. */
    public String text() {
        return pieces.stream().map(Piece::text).collect(Collectors.joining());
    }
}
