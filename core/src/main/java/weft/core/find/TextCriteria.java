package weft.core.find;

import java.util.ArrayList;
import java.util.List;
import weft.core.find.Criterion.Any;
import weft.core.find.Criterion.Empty;
import weft.core.find.Criterion.Is;
import weft.core.find.Criterion.Like;
import weft.core.find.Criterion.Not;
import weft.core.table.Column;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Reads one criterion on text, or on a choice. */
final class TextCriteria {

    private TextCriteria() {}

    /** Text that has a part in it, or parts where stars stand for the rest, or is exactly what stands in quotes. */
    static Criterion text(String text) {
        if (text.startsWith(">") || text.startsWith("<")) {
            throw new Unreadable("“" + text.charAt(0) + "” compares numbers, dates and times; this field holds text. "
                    + "Type a part of it, or wen* for how it begins.");
        }
        if (text.startsWith("=")) {
            return exactly(unquoted(text.substring(1).strip()));
        }
        if (text.length() > 1 && text.indexOf('"') == 0 && text.indexOf('"', 1) == text.length() - 1) {
            return exactly(unquoted(text));
        }
        var parts = new ArrayList<String>();
        for (var part : starred(text)) {
            if (!part.isEmpty()) {
                parts.add(part);
            }
        }
        if (parts.isEmpty()) {
            if (text.contains("*")) {
                return new Not(new Empty());
            }
            throw new Unreadable("There is nothing in the quotes. To find what has nothing in it, type empty.");
        }
        boolean stars = starred(text).size() > 1;
        return new Like(
                parts,
                stars && !starred(text).getFirst().isEmpty(),
                stars && !starred(text).getLast().isEmpty());
    }

    private static Criterion exactly(String text) {
        if (text.isBlank()) {
            throw new Unreadable("There is nothing in the quotes. To find what has nothing in it, type empty.");
        }
        return new Is(new Value.Text(text));
    }

    /** What stands between the stars; a star in quotes is no star. */
    private static List<String> starred(String text) {
        var parts = new ArrayList<String>();
        var part = new StringBuilder();
        boolean quoted = false;
        for (char c : text.toCharArray()) {
            if (c == '"') {
                quoted = !quoted;
            } else if (c == '*' && !quoted) {
                parts.add(part.toString());
                part.setLength(0);
            } else {
                part.append(c);
            }
        }
        parts.add(part.toString());
        return parts;
    }

    private static String unquoted(String text) {
        return text.replace("\"", "");
    }

    /** A list has no other values than its own, so that what is asked is always which of them. */
    static Criterion choice(Column column, String text) {
        var choices = column.choices();
        var bare = ValueReader.fold(unquoted(text));
        var same = choices.stream()
                .filter(each -> ValueReader.fold(each).equals(bare))
                .toList();
        var found = same.isEmpty() && text(text) instanceof Like like
                ? choices.stream().filter(each -> matches(like, each)).toList()
                : same;
        if (found.isEmpty()) {
            var shown = choices.subList(0, Math.min(6, choices.size()));
            throw new Unreadable("“" + text + "” is not on the list. There is " + String.join(", ", shown)
                    + (choices.size() > shown.size() ? " and " + (choices.size() - shown.size()) + " more" : "")
                    + ".");
        }
        var criteria = found.stream()
                .<Criterion>map(each -> new Is(new Value.Text(each)))
                .toList();
        return criteria.size() == 1 ? criteria.getFirst() : new Any(criteria);
    }

    /** Whether the value reads so, as {@link Like} says. */
    static boolean matches(Like like, String value) {
        var folded = ValueReader.fold(value);
        int at = 0;
        for (int part = 0; part < like.parts().size(); part++) {
            var wanted = ValueReader.fold(like.parts().get(part));
            int found = folded.indexOf(wanted, at);
            if (found < 0 || part == 0 && like.begins() && found > 0) {
                return false;
            }
            at = found + wanted.length();
        }
        var last = ValueReader.fold(like.parts().getLast());
        return !like.ends() || folded.endsWith(last);
    }
}
