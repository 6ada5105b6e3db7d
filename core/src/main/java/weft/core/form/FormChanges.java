package weft.core.form;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import weft.core.form.Form.Section;
import weft.core.rule.Rules;
import weft.core.sentence.Sentences;
import weft.core.table.Table;

/** What is different between two states of a form, in words. */
public final class FormChanges {

    private FormChanges() {}

    /** What kind of difference it is. */
    public enum Kind {
        ADDED,
        TAKEN_OFF,
        RENAMED,
        RETHREADED,
        MOVED,
        RULES,
        LOOK,
        SETTINGS
    }

    /**
     * One difference.
     *
     * @param item the item it is about; empty when it is about the whole form
     * @param words what is different, such as "pH is needed now", or the sentence of a rule
     * @param before the sentence that a rule was before; empty for a new one, and for all else
     */
    public record ItemChange(Kind kind, String item, String words, String before) {

        ItemChange(Kind kind, String item, String words) {
            this(kind, item, words, "");
        }
    }

    /**
     * A form with how its rules read.
     *
     * @param rules the form's own as sentences
     * @param lines those of lines on it, by their id
     */
    public record Worded(Form form, Sentences rules, Function<String, Sentences> lines) {

        /**
         * A form on its table.
         *
         * @param others tables by name or title
         */
        public static Worded of(Form form, Table table, Function<String, Optional<Table>> others) {
            return new Worded(
                    form,
                    new Sentences(FormTerms.of(form, table, others)),
                    id -> form.lines()
                            .filter(lines -> lines.id().equals(id))
                            .map(lines -> new Sentences(FormTerms.of(lines, others)))
                            .findFirst()
                            .orElseThrow());
        }
    }

    /** The differences, those of the items in the order of the later state. */
    public static List<ItemChange> between(Worded was, Worded is) {
        var before = was.form();
        var after = is.form();
        var changes = new ArrayList<ItemChange>();
        settings(before, after, changes);
        var ofRules = new RuleChanges(after, changes);
        ofRules.between(before.rules(), was.rules(), after.rules(), is.rules());
        Map<String, Item> old = before.items().collect(Collectors.toMap(Item::id, Function.identity(), (a, b) -> a));
        Map<String, Item> now = after.items().collect(Collectors.toMap(Item::id, Function.identity(), (a, b) -> a));
        before.items()
                .filter(item -> !now.containsKey(item.id()))
                .forEach(item -> changes.add(
                        new ItemChange(Kind.TAKEN_OFF, item.id(), called(item) + " is taken off the form")));
        after.items().forEach(item -> {
            if (old.containsKey(item.id())) {
                item(old.get(item.id()), item, changes);
                if (old.get(item.id()) instanceof FormLines earlier && item instanceof FormLines lines) {
                    ofRules.ofLines(
                            lines,
                            earlier.rules(),
                            was.lines().apply(item.id()),
                            is.lines().apply(item.id()));
                }
            } else {
                changes.add(new ItemChange(Kind.ADDED, item.id(), called(item) + " is added"));
            }
        });
        moved(before, after, changes);
        return List.copyOf(changes);
    }

    private static void settings(Form before, Form after, List<ItemChange> changes) {
        if (!before.title().equals(after.title())) {
            changes.add(settings("The form is called %s, before %s".formatted(after.title(), before.title())));
        }
        if (!before.conventions().equals(after.conventions())) {
            changes.add(settings("Dates or numbers are typed another way"));
        }
        if (before.enter() != after.enter()) {
            changes.add(settings(
                    after.enter() == Form.Enter.SAVES
                            ? "Enter saves"
                            : "Enter moves on, and saves from the last field"));
        }
        if (before.leaving() != after.leaving()) {
            changes.add(settings(
                    after.leaving() == Form.Leaving.SAVES
                            ? "A changed record is saved when you move on"
                            : "You are asked about a changed record when you move on"));
        }
        if (!before.order().equals(after.order())) {
            changes.add(settings("Records come in another order"));
        }
        if (!before.tray().equals(after.tray())) {
            changes.add(settings("The tray shows other columns"));
        }
        if (!before.style().equals(after.style())) {
            changes.add(settings("The form looks different: density, tone or size"));
        }
    }

    private static ItemChange settings(String words) {
        return new ItemChange(Kind.SETTINGS, "", words);
    }

    private static void item(Item before, Item after, List<ItemChange> changes) {
        if (before instanceof Field old && after instanceof Field now) {
            field(old, now, changes);
        } else if (before instanceof FormLines old && after instanceof FormLines now) {
            if (!old.ruled(Rules.NONE).equals(now.ruled(Rules.NONE))) {
                changes.add(new ItemChange(Kind.LOOK, now.id(), called(now) + " are changed"));
            }
        } else if (!before.equals(after)) {
            changes.add(new ItemChange(Kind.LOOK, after.id(), called(after) + " is changed"));
        }
    }

    private static void field(Field old, Field now, List<ItemChange> changes) {
        if (!old.label().equals(now.label())) {
            changes.add(
                    new ItemChange(Kind.RENAMED, now.id(), "%s is called %s now".formatted(called(old), called(now))));
        }
        if (!old.column().equals(now.column())) {
            changes.add(new ItemChange(
                    Kind.RETHREADED,
                    now.id(),
                    "%s writes to %s, before to %s".formatted(called(now), now.column(), old.column())));
        }
        if (old.required() != now.required()) {
            changes.add(rule(now, now.required() ? "is needed" : "may stay empty"));
        }
        if (old.use() != now.use()) {
            changes.add(rule(
                    now,
                    switch (now.use()) {
                        case OPEN -> "can be typed in";
                        case READ_ONLY -> "can only be read";
                        case LOCKED -> "is locked";
                        case HIDDEN -> "is hidden";
                    }));
        }
        if (!old.start().equals(now.start())) {
            changes.add(rule(
                    now,
                    now.start().value().isEmpty()
                            ? now.start().carried() ? "keeps the last entry's value" : "begins empty"
                            : "begins with " + now.start().value()));
        }
        if (old.widget() != now.widget()
                || !old.unit().equals(now.unit())
                || !old.keys().equals(now.keys())) {
            changes.add(rule(now, "is typed another way"));
        }
        if (old.width() != now.width()) {
            changes.add(look(now, "is %d wide, before %d".formatted(now.width(), old.width())));
        }
        if (old.height() != now.height()) {
            changes.add(look(now, "is %d high, before %d".formatted(now.height(), old.height())));
        }
        if (!old.help().equals(now.help())) {
            changes.add(look(now, now.help().isBlank() ? "has no help line any more" : "has another help line"));
        }
        if (!old.look().equals(now.look())) {
            changes.add(look(now, "looks different"));
        }
    }

    private static ItemChange look(Field field, String what) {
        return new ItemChange(Kind.LOOK, field.id(), called(field) + " " + what);
    }

    private static ItemChange rule(Field field, String what) {
        return new ItemChange(Kind.RULES, field.id(), called(field) + " " + what);
    }

    /** Those that no longer follow what they followed among the items that both states have; the fewest that tell it. */
    private static void moved(Form before, Form after, List<ItemChange> changes) {
        var kept = ids(before);
        var now = ids(after);
        kept.retainAll(now);
        now.retainAll(kept);
        var stay = longestCommon(kept, now);
        after.items()
                .filter(item -> now.contains(item.id()) && !stay.contains(item.id()))
                .forEach(item -> changes.add(new ItemChange(Kind.MOVED, item.id(), called(item) + " is moved")));
        var titles = before.sections().stream().map(Section::title).toList();
        if (!titles.equals(after.sections().stream().map(Section::title).toList())) {
            changes.add(new ItemChange(Kind.MOVED, "", "The sections are others"));
        }
    }

    private static List<String> ids(Form form) {
        return form.items().map(Item::id).collect(Collectors.toCollection(ArrayList::new));
    }

    /** The longest sequence that both lists hold in the same order. */
    private static List<String> longestCommon(List<String> one, List<String> other) {
        var place = new HashMap<String, Integer>();
        one.forEach(id -> place.put(id, place.size()));
        var best = new int[other.size()];
        var before = new int[other.size()];
        int end = -1;
        for (int i = 0; i < other.size(); i++) {
            best[i] = 1;
            before[i] = -1;
            for (int j = 0; j < i; j++) {
                if (place.getOrDefault(other.get(j), 0) < place.getOrDefault(other.get(i), 0)
                        && best[j] + 1 > best[i]) {
                    best[i] = best[j] + 1;
                    before[i] = j;
                }
            }
            if (end < 0 || best[i] > best[end]) {
                end = i;
            }
        }
        var stay = new ArrayList<String>();
        for (int i = end; i >= 0; i = before[i]) {
            stay.add(other.get(i));
        }
        return stay;
    }

    private static String called(Item item) {
        return switch (item) {
            case Field field -> field.label().isBlank() ? "The field of " + field.column() : field.label();
            case Words words ->
                switch (words.kind()) {
                    case HEADING -> "The heading " + words.text();
                    case TEXT -> "A text";
                    case DIVIDER -> "A divider";
                };
            case Picture _ -> "A picture";
            case Calculated shown -> "The shown value " + shown.label();
            case FormLines lines -> "The lines " + lines.label();
            case Button button -> "The button " + button.label();
        };
    }
}
