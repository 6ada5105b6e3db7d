package weft.core.sentence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
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
import weft.core.table.Column;
import weft.core.table.Constraint;

/** Whatever rule there can be is said by its sentence: read back, it is the same. */
class RoundTripTest {

    private static final List<String> WORDS = List.of(
            "",
            " ",
            "6",
            "9",
            "dry",
            "light rain",
            "light or heavy",
            "a, b",
            "nothing",
            "22:00",
            "2015-01-01 00:00",
            "-2.5",
            "6,5",
            "else stop",
            ", else ask",
            "at Site",
            "\"",
            "\\",
            "\\n",
            "a\nb",
            "\t",
            "`x`",
            "“so”",
            "/",
            "[A-Z]{2}-[0-9]{2}",
            "\\pL+",
            "[^@\\s]+@[^@\\s]+\\.[^@\\s]+",
            "K-[0-9]{2}",
            "[A-Z][A-Z]",
            "\\d{3}/\\d",
            "S-{year}-{0000}",
            "{e_mail}",
            "A pH of {ph} is rare here.",
            "formula \"x\"",
            "is",
            "to",
            "or more",
            "\u2028",
            ":",
            "x:",
            ": \"no\"");

    private static final List<String> FORMULAS = List.of(
            "today()",
            "floor(days(to_at - from_at)) + 1",
            "to_at > from_at",
            "status = \"a, at Site\"",
            "ph",
            "formula",
            "if a then b else c",
            "x, else stop",
            "x, at Site",
            "{a: 1, b: 2}.a",
            "a with b",
            "foo(",
            "ph is 6 to 9",
            "Site is filled",
            "x : \"y\"",
            "some line in counts satisfies line.count > 1, what = 3",
            "formula \"x\"",
            "a, site = 1");

    @Property(tries = 4000)
    void aRuleReadBackIsTheSame(@ForAll("rules") Declaration rule) {
        var sentence = River.SENTENCES.of(rule).text();

        assertThat(River.SENTENCES.read(sentence).named(rule.id())).as(sentence).isEqualTo(rule);
        assertThat(sentence).doesNotContain("\n");
    }

    @Property(tries = 500)
    void whatIsReadIsWrittenAndReadAgainTheSame(@ForAll("rules") Declaration rule, @ForAll("mangling") int cut) {
        var sentence = River.SENTENCES.of(rule).text();
        var mangled = sentence.substring(0, cut % (sentence.length() + 1));
        Declaration read;
        try {
            read = River.SENTENCES.read(mangled);
        } catch (Unclear unclear) {
            assertThat(unclear.at()).isBetween(0, mangled.length());
            return;
        }
        assertThat(River.SENTENCES.read(River.SENTENCES.of(read).text()))
                .as(mangled)
                .isEqualTo(read);
    }

    /**
     * Wherever a field, a table or a column stands in a sentence, it was offered as soon as its first letters were typed; but for
     * columns of what is only named after them, or is known to another form alone.
     */
    @Property(tries = 1500)
    void whatStandsInASentenceIsOfferedWhileItIsTyped(@ForAll("rules") Declaration rule) {
        var typed = "";
        for (var piece : River.SENTENCES.of(rule).pieces()) {
            boolean bare = piece.text().matches("[A-Za-z][A-Za-z0-9 _-]{2,}");
            boolean known = !typed.endsWith(" = ") && !typed.contains("open ");
            if (bare && known && (piece.kind() == Piece.Role.FIELD || piece.kind() == Piece.Role.NAME)) {
                var begun = typed + piece.text().substring(0, 2);
                assertThat(River.SENTENCES.completions(begun))
                        .as(begun)
                        .anyMatch(offer -> (begun.substring(0, offer.from()) + offer.text())
                                .equalsIgnoreCase(typedBefore(begun) + piece.text()));
            }
            typed += piece.text();
        }
    }

    /** All but the two letters that are begun. */
    private static String typedBefore(String begun) {
        return begun.substring(0, begun.length() - 2);
    }

    @Provide
    Arbitrary<Integer> mangling() {
        return Arbitraries.integers().between(0, 200);
    }

    @Provide
    Arbitrary<Declaration> rules() {
        return Arbitraries.oneOf(
                checks().map(each -> each),
                fills().map(each -> each),
                derived().map(each -> each),
                choices().map(each -> each),
                Combinators.combine(columns(), texts()).as(Numbering::new),
                Combinators.combine(places(), steps()).as(Placed::new),
                constraints().map(Between::new));
    }

    private static Arbitrary<String> columns() {
        return Arbitraries.frequencyOf(
                net.jqwik.api.Tuple.of(
                        9, Arbitraries.of(River.SAMPLES.columns()).map(Column::name)),
                net.jqwik.api.Tuple.of(1, Arbitraries.of("gone", "or", "is", "from", "site")));
    }

    private static Arbitrary<String> others() {
        return Arbitraries.of("code", "name", "river", "to", "by", "what", "gone", "link", "role");
    }

    private static Arbitrary<String> tables() {
        return Arbitraries.of("samples", "sites", "volunteers", "incidents", "from", "gone");
    }

    private static Arbitrary<String> texts() {
        return Arbitraries.oneOf(Arbitraries.of(WORDS), Arbitraries.strings().ofMaxLength(8));
    }

    private static Arbitrary<String> formulas() {
        return Arbitraries.oneOf(Arbitraries.of(FORMULAS), texts());
    }

    private static Arbitrary<Check> checks() {
        Arbitrary<Check.Rule> what = Arbitraries.oneOf(
                columns().list().ofMinSize(1).ofMaxSize(3).map(Check.AnyOf::new),
                columns().list().ofMaxSize(3).map(Check.Complete::new),
                Combinators.combine(
                                columns().list().ofMinSize(1).ofMaxSize(3),
                                Arbitraries.of(true, false),
                                Arbitraries.of(true, false))
                        .as(Check.Alike::new),
                Combinators.combine(
                                columns(),
                                Combinators.combine(columns(), Arbitraries.of(Check.For.Of.class))
                                        .as(Check.For::new)
                                        .list()
                                        .ofMaxSize(3),
                                Arbitraries.of(true, false))
                        .as(Check.Usual::new),
                Combinators.combine(columns(), texts(), texts()).as(Check.Range::new),
                Combinators.combine(
                                columns(),
                                Arbitraries.integers().between(0, 5),
                                Arbitraries.integers().between(0, 5))
                        // One that goes from the larger to the smaller is refused.
                        .as((column, one, other) -> new Check.Length(
                                column,
                                other == 0 ? one : Math.min(one, other),
                                other == 0 ? 0 : Math.max(one, other))),
                Combinators.combine(columns(), texts()).as(Check.Matches::new),
                Combinators.combine(columns(), texts().list().ofMaxSize(3)).as(Check.OneOf::new),
                Combinators.combine(columns(), columns()).as(Check.Needs::new),
                Combinators.combine(formulas(), columns()).as(Check.Holds::new));
        return Combinators.combine(what, Arbitraries.of(true, false), Arbitraries.of(true, false), texts())
                .as((rule, asks, stays, message) -> new Check("c", rule, asks, stays, message));
    }

    private static Arbitrary<Fill> fills() {
        var keys = Combinators.combine(columns(), Arbitraries.oneOf(others(), Arbitraries.just("")))
                .as(Fill.Tie::new);
        var brings = Combinators.combine(columns(), others()).as(Fill.Tie::new);
        return Combinators.combine(
                        tables(),
                        keys.list().ofMinSize(1).ofMaxSize(2),
                        brings.list().ofMaxSize(3),
                        Arbitraries.of(Fill.None.class),
                        Arbitraries.of(Fill.Several.class),
                        Arbitraries.of(true, false))
                .as((table, by, brought, none, several, back) ->
                        new Fill("f", table, by, brought, none, several, back));
    }

    private static Arbitrary<Derived> derived() {
        return Combinators.combine(
                        Arbitraries.oneOf(columns(), Arbitraries.of("total-1", "odd id, `so`")),
                        Arbitraries.of(Derived.Decides.class),
                        formulas())
                .as(Derived::new);
    }

    private static Arbitrary<Choices> choices() {
        var ties = Combinators.combine(columns(), others()).as(Fill.Tie::new);
        return Combinators.combine(
                        columns(),
                        tables(),
                        others(),
                        Arbitraries.oneOf(others(), Arbitraries.just("")),
                        ties.list().ofMaxSize(2),
                        Arbitraries.of(true, false))
                .as(Choices::new);
    }

    private static Arbitrary<String> places() {
        return Arbitraries.of("saved", "changed", "send", "odd", "gone", "a \"b\" `c`\\");
    }

    private static Arbitrary<Step> steps() {
        var settings = Combinators.combine(Arbitraries.oneOf(others(), columns()), formulas())
                .as(Step.Setting::new)
                .list()
                .ofMaxSize(3);
        var commands =
                Arbitraries.of(Command.class).filter(command -> command != Command.OPEN && command != Command.STEPS);
        Arbitrary<Step.Action> actions = Arbitraries.oneOf(
                commands.map(Step.Press::new),
                Combinators.combine(Arbitraries.of("bookings", "gone", "With"), settings)
                        .as(Step.Open::new),
                Combinators.combine(columns(), formulas())
                        .as((column, formula) -> new Step.SetField(new Step.Setting(column, formula))),
                Combinators.combine(tables(), settings).as(Step.AddRow::new),
                Combinators.combine(tables(), settings, settings).as(Step.ChangeRow::new),
                Combinators.combine(texts(), texts(), texts()).as(Step.Send::new),
                texts().map(Step.Say::new),
                Combinators.combine(texts(), Arbitraries.of(Step.Reply.class))
                        .as((text, usual) -> new Step.Ask("q", text, usual)));
        return Combinators.combine(Arbitraries.oneOf(Arbitraries.just(""), formulas()), actions)
                .as(Step::new);
    }

    private static Arbitrary<Constraint> constraints() {
        var names = columns().list().ofMinSize(1).ofMaxSize(3);
        return Arbitraries.oneOf(
                Combinators.combine(names, texts()).as((of, message) -> new Constraint.Unique("u", of, message)),
                Combinators.combine(columns().list().ofMaxSize(2), columns(), columns(), texts())
                        .as((same, from, to, message) -> new Constraint.NoOverlap("o", same, from, to, message)));
    }
}
