package weft.core.entry;

import weft.core.value.Typed;
import weft.core.value.Value;

/**
 * Whether what is in a field is what is stored, as it stands there before anybody types: then it is not read anew. Other
 * programs store fractions of seconds, long decimals and blanks that nobody could type.
 */
final class Untouched {

    private Untouched() {}

    static boolean is(Typed typed, Value stored) {
        return switch (typed) {
            case Typed.Given(var value) -> value.equals(stored);
            case Typed.Kept(var value) -> value.equals(stored);
            case Typed.Keyed(var text) -> spells(text, stored);
            case Typed.Foreign _ -> false;
        };
    }

    private static boolean spells(String text, Value stored) {
        var plain = stored.plain();
        if (text.equals(plain)) {
            return true;
        }
        return switch (stored) {
            case Value.Decimal _ -> text.equals(plain.replace('.', ','));
            case Value.YesNo(var yes) -> text.equals(yes ? "yes" : "no");
            case Value.Hour _, Value.Moment _ -> {
                var shown = plain.replace('T', ' ');
                yield text.equals(shown)
                        || (shown.endsWith(":00") && text.equals(shown.substring(0, shown.length() - 3)));
            }
            // A field of one line has no line breaks in it, one of several has them in one way.
            case Value.Text(var words) ->
                text.equals(words.replace("\r\n", "\n").replace('\r', '\n'))
                        || text.equals(words.replaceAll("[\r\n]", ""));
            case Value.Empty _, Value.Whole _, Value.Day _, Value.Image _, Value.Link _ -> false;
        };
    }
}
