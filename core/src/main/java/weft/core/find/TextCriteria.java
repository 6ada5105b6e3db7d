package weft.core.find;

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
            return exactly(Starred.of(text.substring(1).strip()).bare());
        }
        var starred = Starred.of(text);
        if (starred.exact()) {
            return exactly(starred.bare());
        }
        var parts = starred.parts().stream().filter(part -> !part.isEmpty()).toList();
        if (parts.isEmpty()) {
            if (starred.hasStars()) {
                return new Not(new Empty());
            }
            throw nothingQuoted();
        }
        return new Like(
                parts,
                starred.hasStars() && !starred.parts().getFirst().isEmpty(),
                starred.hasStars() && !starred.parts().getLast().isEmpty());
    }

    private static Criterion exactly(String text) {
        if (text.isBlank()) {
            throw nothingQuoted();
        }
        return new Is(new Value.Text(text));
    }

    static Unreadable nothingQuoted() {
        return new Unreadable("There is nothing in the quotes. To find what has nothing in it, type empty.");
    }

    /** A list has no other values than its own, so that what is asked is always which of them. */
    static Criterion choice(Column column, String text) {
        var choices = column.choices();
        var found = switch (text(text)) {
            case Like like ->
                choices.stream().filter(each -> matches(like, each)).toList();
            case Is(var value) -> {
                var wanted = ValueReader.fold(value.plain());
                yield choices.stream()
                        .filter(each -> ValueReader.fold(each).equals(wanted))
                        .toList();
            }
            default -> choices;
        };
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
            if (found < 0 || (part == 0 && like.begins() && found > 0)) {
                return false;
            }
            at = found + wanted.length();
        }
        var last = ValueReader.fold(like.parts().getLast());
        return !like.ends() || folded.endsWith(last);
    }
}
