package weft.server.bench;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import weft.core.rule.Between;
import weft.core.rule.Declaration;
import weft.core.sentence.Piece;
import weft.core.sentence.Sentence;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.store.form.ReadyForm;

/**
 * A rule as its sentence.
 *
 * @param key names it within its form: its kind, and its id or its place
 * @param text the whole sentence, as one can type it
 * @param pieces its parts, each with what it is
 * @param columns the columns of its fields, in formulas too
 */
record RuleJson(String key, Declaration.When acts, String text, List<PieceJson> pieces, List<String> columns) {

    private static final Pattern WORD = Pattern.compile("[a-z][a-z0-9_]*");

    /**
     * A part of a sentence.
     *
     * @param about the column that a field's name means; else empty
     */
    record PieceJson(Piece.Role kind, String text, String about) {
        private static PieceJson of(Piece piece) {
            return new PieceJson(piece.kind(), piece.text(), piece.about());
        }
    }

    /** The rules of a form and of its table, in the order in which they act. */
    static List<RuleJson> of(ReadyForm form) {
        var sentences = form.plan().sentences();
        var all = new ArrayList<RuleJson>();
        form.form()
                .rules()
                .declared()
                .forEach(each -> all.add(
                        of(each.key(), each.rule(), sentences, form.plan().terms())));
        form.table()
                .definition()
                .constraints()
                .forEach(constraint -> all.add(of(
                        "between " + constraint.id(),
                        new Between(constraint),
                        sentences,
                        form.plan().terms())));
        return List.copyOf(all);
    }

    static RuleJson of(String key, Declaration rule, Sentences sentences, Terms terms) {
        var sentence = sentences.of(rule);
        return new RuleJson(
                key,
                rule.acts(),
                sentence.text(),
                sentence.pieces().stream().map(PieceJson::of).toList(),
                columns(sentence, terms));
    }

    private static List<String> columns(Sentence sentence, Terms terms) {
        var columns = new LinkedHashSet<String>();
        sentence.pieces().stream()
                .flatMap(piece -> switch (piece.kind()) {
                    case FIELD -> Stream.of(piece.about());
                    case FORMULA -> WORD.matcher(piece.text()).results().map(word -> word.group());
                    case WORD, DOES, STOPS, ASKS, NAME, VALUE, TEXT -> Stream.<String>empty();
                })
                .filter(name ->
                        terms.fields().stream().anyMatch(field -> field.name().equals(name)))
                .forEach(columns::add);
        return List.copyOf(columns);
    }
}
