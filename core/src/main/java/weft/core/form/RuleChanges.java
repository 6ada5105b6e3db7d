package weft.core.form;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weft.core.form.FormChanges.ItemChange;
import weft.core.form.FormChanges.Kind;
import weft.core.rule.Rules;
import weft.core.rule.Rules.Declared;
import weft.core.sentence.Piece;
import weft.core.sentence.Sentence;
import weft.core.sentence.Sentences;

/** What is different between the rules of two states of a form, each rule in its sentence. */
final class RuleChanges {

    private static final String NO_MORE = "no more: ";

    private final Form form;
    private final List<ItemChange> changes;

    /** In the later state of the form; what is found is added to the changes. */
    RuleChanges(Form form, List<ItemChange> changes) {
        this.form = form;
        this.changes = changes;
    }

    /** Between the form's own rules. */
    void between(Rules before, Sentences was, Rules after, Sentences is) {
        between(Optional.empty(), before, was, after, is);
    }

    /** Between the rules of lines on it. */
    void ofLines(FormLines lines, Rules before, Sentences was, Sentences is) {
        between(Optional.of(lines), before, was, lines.rules(), is);
    }

    /** Those that are the same in both go out first; of the others, two of one key are one rule that was changed. */
    private void between(Optional<FormLines> lines, Rules before, Sentences was, Rules after, Sentences is) {
        var gone = new ArrayList<>(before.declared());
        var fresh = new ArrayList<Declared>();
        for (var each : after.declared()) {
            var same =
                    gone.stream().filter(old -> old.rule().equals(each.rule())).findFirst();
            same.ifPresentOrElse(gone::remove, () -> fresh.add(each));
        }
        for (var each : fresh) {
            var earlier =
                    gone.stream().filter(old -> old.key().equals(each.key())).findFirst();
            earlier.ifPresent(gone::remove);
            add(
                    lines,
                    is.of(each.rule()),
                    "",
                    earlier.map(old -> was.of(old.rule()).text()).orElse(""));
        }
        gone.forEach(old -> add(lines, was.of(old.rule()), NO_MORE, ""));
        if (lines.isEmpty() && !before.practice().equals(after.practice())) {
            changes.add(new ItemChange(Kind.RULES, "", "The practice entries are others"));
        }
    }

    private void add(Optional<FormLines> lines, Sentence sentence, String so, String before) {
        var about = lines.map(FormLines::id)
                .orElseGet(() -> sentence.pieces().stream()
                        .filter(piece -> piece.kind() == Piece.Role.FIELD)
                        .flatMap(piece -> form.fieldOf(piece.about()).stream())
                        .map(Field::id)
                        .findFirst()
                        .orElse(""));
        var where = lines.map(each -> "in each line of " + each.label() + ": ").orElse("");
        changes.add(new ItemChange(
                Kind.RULES, about, where + so + sentence.text(), before.isEmpty() ? "" : where + before));
    }
}
