package weft.core.sentence;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Command;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.sentence.Piece.Role;
import weft.core.table.Constraint;
import weft.core.value.Wire;

/** Writes a rule as a sentence. */
final class SentenceWriter {

    /** The actions that a button could do by itself, in the words of a sentence. */
    static final Map<Command, String> COMMANDS = commands();

    private static final Pattern BARE_LABEL = Pattern.compile("[\\p{L}\\p{N}][\\p{L}\\p{N} ._/%°()-]*");
    private static final Pattern BARE_VALUE =
            Pattern.compile("[-+]?[\\p{L}\\p{N}][\\p{L}\\p{N}./:_+-]*( [\\p{L}\\p{N}./:_+-]+)*");

    private final Terms terms;
    private final Names columns;
    private final boolean exact;
    private final List<Piece> pieces = new ArrayList<>();

    /** @param exact whether every name, value and formula is written so that it can't be taken for anything else */
    SentenceWriter(Terms terms, boolean exact) {
        this.terms = terms;
        this.columns = terms.columns();
        this.exact = exact;
    }

    private static Map<Command, String> commands() {
        var words = new LinkedHashMap<Command, String>();
        words.put(Command.SAVE, "save");
        words.put(Command.CLEAR, "clear");
        words.put(Command.NEW, "go to new");
        words.put(Command.FIRST, "go to first");
        words.put(Command.PREVIOUS, "go to previous");
        words.put(Command.NEXT, "go to next");
        words.put(Command.LAST, "go to last");
        words.put(Command.FIND, "find");
        words.put(Command.DELETE, "delete");
        words.put(Command.PUT_BACK, "put back");
        words.put(Command.CLOSE, "close");
        return words;
    }

    static String verb(Derived.Decides what) {
        return switch (what) {
            case DEFAULT -> "begins as";
            case CALCULATED -> "=";
            case SHOWN -> "is shown if";
            case LOCKED -> "is locked if";
            case REQUIRED -> "is needed if";
            case DISPLAYED -> "shows";
        };
    }

    static String head(boolean asks, boolean stays) {
        return (asks ? "asks" : "stops") + (stays ? " and stays" : "") + " unless";
    }

    static String word(Step.Reply reply) {
        return Wire.word(reply);
    }

    Sentence write(Declaration declaration) {
        switch (declaration) {
            case Check check -> check(check);
            case Fill fill -> fill(fill);
            case Derived derived -> derived(derived);
            case Choices choices -> choices(choices);
            case Numbering(var column, var pattern) -> {
                field(column);
                does(" is numbered ");
                add(
                        Role.VALUE,
                        exact
                                        || !pattern.strip().equals(pattern)
                                        || pattern.startsWith("\"")
                                        || Quotes.hasControls(pattern)
                                        || pattern.isEmpty()
                                ? Quotes.quote(pattern)
                                : pattern);
            }
            case Placed(var when, var step) -> placed(when, step);
            case Between(var constraint) -> between(constraint);
        }
        return new Sentence(pieces);
    }

    /** Only what a step does. */
    Sentence write(Step.Action action) {
        action(action);
        return new Sentence(pieces);
    }

    private void check(Check check) {
        var head = head(check.asks(), check.stays());
        add(check.asks() ? Role.ASKS : Role.STOPS, head.replace(" unless", ""));
        words(" unless ");
        switch (check.rule()) {
            case Check.AnyOf(var names) -> {
                if (names.size() == 1) {
                    field(names.getFirst());
                } else {
                    fields(names, " or ");
                }
                words(" is filled");
            }
            case Check.Complete(var names) -> complete(names);
            case Check.Alike(var names, boolean sound, boolean all) -> {
                words("nearly no two alike in ");
                fields(names, ", ");
                words(sound ? " by sound too" : "");
                words(all ? ", of all records" : "");
            }
            case Check.Usual(var column, var by, boolean all) -> {
                field(column);
                words(" is as usual");
                for (int i = 0; i < by.size(); i++) {
                    words(i == 0 ? " for " : ", ");
                    part(by.get(i));
                }
                words(all ? ", of all records" : "");
            }
            case Check.Range(var column, var from, var to) -> {
                field(column);
                range(from, to);
            }
            case Check.Length(var column, int from, int to) -> {
                field(column);
                words(" has ");
                add(Role.VALUE, to == 0 ? from + " or more" : from == to ? "" + from : from + " to " + to);
                words(" characters");
            }
            case Check.Matches(var column, var pattern) -> {
                field(column);
                matches(pattern);
            }
            case Check.OneOf(var column, var list) -> {
                field(column);
                words(" is one of ");
                if (list.isEmpty()) {
                    words("nothing");
                }
                for (int i = 0; i < list.size(); i++) {
                    words(i == 0 ? "" : ", ");
                    value(list.get(i), i == 0 ? "nothing|or" : "or|else");
                }
            }
            case Check.Needs(var column, var other) -> {
                field(column);
                words(" needs ");
                field(other);
            }
            case Check.Holds(var formula, var column) -> {
                formula(formula);
                words(", at ");
                field(column);
            }
        }
        message(check.message());
    }

    private void part(Check.For part) {
        if (part.of() == Check.For.Of.VALUE) {
            field(part.column());
        } else {
            words(Wire.word(part.of()) + "(");
            field(part.column());
            words(")");
        }
    }

    private void complete(List<String> names) {
        if (names.isEmpty()) {
            words("everything is filled");
        } else if (names.size() == 1) {
            words("all of ");
            field(names.getFirst());
            words(" is filled");
        } else {
            fields(names, " and ");
            words(" are filled");
        }
    }

    private void range(String from, String to) {
        if (to.isEmpty() && !from.isEmpty()) {
            words(" is at least ");
            value(from, "");
        } else if (from.isEmpty() && !to.isEmpty()) {
            words(" is at most ");
            value(to, "");
        } else {
            words(" is between ");
            value(from, "and|to");
            words(" and ");
            value(to, "");
        }
    }

    private void matches(String pattern) {
        var like = Shapes.like(pattern);
        if (like.isPresent() && !exact) {
            words(" looks like ");
            value(like.get(), "");
        } else {
            words(" matches ");
            boolean slashed =
                    !exact && !Quotes.hasControls(pattern) && !pattern.contains("/") && !pattern.endsWith("\\");
            add(Role.VALUE, slashed ? "/" + pattern + "/" : Quotes.quote(pattern));
        }
    }

    private void fill(Fill fill) {
        fields(fill.keys().stream().map(Fill.Tie::column).toList(), ", ");
        does(fill.keys().size() == 1 ? " brings " : " bring ");
        var other = terms.others().apply(fill.table());
        if (fill.brings().isEmpty()) {
            words("nothing");
        }
        var between = "";
        for (var tie : fill.brings()) {
            words(between);
            field(tie.column());
            boolean said = !exact
                    && other.flatMap(table -> terms.goesWith(tie.column(), table))
                            .filter(tie.source()::equals)
                            .isPresent();
            if (!said) {
                words(" = ");
                name(tie.source(), Terms.columns(other));
            }
            between = ", ";
        }
        words(" from ");
        table(fill.table());
        if (fill.keys().stream().allMatch(key -> key.source().isEmpty())) {
            words(" by link");
        } else {
            words(" by ");
            var comma = "";
            for (var key : fill.keys()) {
                words(comma);
                if (key.source().isEmpty()) {
                    words("\"\"");
                } else {
                    name(key.source(), Terms.columns(other));
                }
                comma = ", ";
            }
        }
        switch (fill.none()) {
            case LEAVE -> {}
            case ASK -> {
                words(", ");
                asks("else ask");
            }
            case STOP -> {
                words(", ");
                stops("else stop");
            }
        }
        switch (fill.several()) {
            case CHOOSE -> {}
            case LEAVE -> words(", if several leave it");
            case ASK -> words(", if several ask");
            case STOP -> words(", if several stop");
        }
        if (fill.writesBack()) {
            words(", writing changes back");
        }
    }

    private void derived(Derived derived) {
        target(derived.target());
        does(" " + verb(derived.what()) + " ");
        formula(derived.formula());
    }

    private void choices(Choices choices) {
        field(choices.column());
        does(" is chosen from ");
        table(choices.table());
        var of = Terms.columns(terms.others().apply(choices.table()));
        words(" by ");
        name(choices.source(), of);
        if (!choices.shown().isEmpty()) {
            words(", showing ");
            name(choices.shown(), of);
        }
        var joint = ", where ";
        for (var tie : choices.when()) {
            words(joint);
            name(tie.source(), of);
            words(" = ");
            field(tie.column());
            joint = " and ";
        }
        if (choices.open()) {
            words(", or anything else");
        }
    }

    private void between(Constraint constraint) {
        switch (constraint) {
            case Constraint.Unique(var _, var names, var _) -> {
                stops("no two alike");
                words(" in ");
                fields(names, ", ");
            }
            case Constraint.NoOverlap(var _, var same, var from, var to, var _) -> {
                stops("no overlap");
                words(" from ");
                field(from);
                words(" to ");
                field(to);
                if (!same.isEmpty()) {
                    words(" for one ");
                    fields(same, ", ");
                }
            }
        }
        message(constraint.message());
    }

    private void placed(String when, Step step) {
        switch (when) {
            case Steps.SAVED -> words("once saved");
            case Steps.CHANGED -> words("once changed");
            default -> {
                words("when ");
                name(when, new Names(terms.buttons()));
                words(" is pressed");
            }
        }
        if (!step.onlyIf().isEmpty()) {
            words(", if ");
            formula(step.onlyIf());
        }
        words(": ");
        action(step.action());
    }

    private void action(Step.Action action) {
        switch (action) {
            case Step.Press(var command) -> does(COMMANDS.getOrDefault(command, Wire.word(command)));
            case Step.Open(var form, var values) -> {
                does("open ");
                add(Role.NAME, !exact && form.matches("[a-z][a-z0-9_-]*") ? form : Quotes.exactly(form));
                settings(" with ", values, column -> Names.isShort(column) && !exact ? column : Quotes.exactly(column));
            }
            case Step.SetField(var setting) -> {
                does("set ");
                field(setting.column());
                words(" to ");
                formula(setting.formula());
            }
            case Step.AddRow(var table, var values) -> {
                does("add to ");
                table(table);
                settings(" with ", values, of(table));
            }
            case Step.ChangeRow(var table, var where, var values) -> {
                does("change ");
                table(table);
                settings(" where ", where, of(table));
                settings(" with ", values, of(table));
            }
            case Step.Send(var to, var subject, var text) -> {
                does("send to ");
                add(Role.VALUE, !exact && to.matches("[^\\s\",:“”\\\\`]+") ? to : Quotes.quote(to));
                words(" ");
                add(Role.TEXT, Quotes.quote(subject));
                words(" ");
                add(Role.TEXT, Quotes.quote(text));
            }
            case Step.Say(var text) -> {
                does("say ");
                add(Role.TEXT, Quotes.quote(text));
            }
            case Step.Ask(var _, var text, var usual) -> {
                asks("ask ");
                add(Role.TEXT, Quotes.quote(text));
                words(" yes, no or cancel, usually " + word(usual));
            }
        }
    }

    private void settings(String joint, List<Setting> settings, UnaryOperator<String> spelled) {
        var between = joint;
        for (var setting : settings) {
            words(between);
            add(Role.NAME, spelled.apply(setting.column()));
            words(" = ");
            formula(setting.formula());
            between = ", ";
        }
    }

    private UnaryOperator<String> of(String table) {
        var names = Terms.columns(terms.others().apply(table));
        return column -> spelled(column, names, Optional.of(column));
    }

    private void message(String message) {
        if (!message.isEmpty()) {
            words(": ");
            add(Role.TEXT, Quotes.quote(message));
        }
    }

    private void fields(List<String> names, String last) {
        for (int i = 0; i < names.size(); i++) {
            words(i == 0 ? "" : i == names.size() - 1 ? last : ", ");
            field(names.get(i));
        }
    }

    private void field(String column) {
        pieces.add(new Piece(Role.FIELD, spelled(column, columns, Optional.empty()), column));
    }

    private void target(String target) {
        pieces.add(new Piece(Role.FIELD, spelled(target, terms.targets(), Optional.empty()), target));
    }

    private void table(String name) {
        boolean known = !exact && terms.others().apply(name).isPresent();
        add(Role.NAME, known ? name : Quotes.exactly(name));
    }

    /** Columns of other tables go by their own names, all else by what people call it. */
    private void name(String name, Names of) {
        add(Role.NAME, spelled(name, of, Optional.of(name)));
    }

    private String spelled(String name, Names of, Optional<String> preferred) {
        var spelling = preferred
                .filter(each -> of.of(each).filter(name::equals).isPresent() && Names.isShort(each))
                .or(() -> of.spelling(name));
        if (exact || spelling.isEmpty()) {
            return Quotes.exactly(name);
        }
        var label = spelling.get();
        return BARE_LABEL.matcher(label).matches() && label.strip().equals(label) ? label : Quotes.quote(label);
    }

    private void value(String value, String words) {
        boolean bare = !exact
                && BARE_VALUE.matcher(value).matches()
                && !value.endsWith(":")
                && !SentenceValues.spoken(value)
                && (words.isEmpty() || !value.toLowerCase(Locale.ROOT).matches("(.* )?(" + words + ")( .*)?"));
        add(Role.VALUE, bare ? value : Quotes.quote(value));
    }

    private void formula(String formula) {
        boolean bare = !exact && !formula.isEmpty() && formula.strip().equals(formula) && !Quotes.hasControls(formula);
        add(Role.FORMULA, bare ? formula : "formula " + Quotes.quote(formula));
    }

    private void words(String words) {
        if (!words.isEmpty()) {
            add(Role.WORD, words);
        }
    }

    private void does(String words) {
        add(Role.DOES, words);
    }

    private void stops(String words) {
        add(Role.STOPS, words);
    }

    private void asks(String words) {
        add(Role.ASKS, words);
    }

    private void add(Role kind, String text) {
        pieces.add(new Piece(kind, text, ""));
    }
}
