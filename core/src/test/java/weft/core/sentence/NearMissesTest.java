package weft.core.sentence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import weft.core.formula.Formula;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/**
 * What is nearly a sentence means what a plain reader of its words takes it for, or is refused; it never means something else,
 * and no word of the language becomes a value.
 */
class NearMissesTest {

    private static final Map<String, String> FIELDS = Map.of("River", "river", "Water", "water_c", "Oxygen", "oxygen");

    private static final Sentences SENTENCES = new Sentences(Terms.of(new Table(
            "samples",
            "Samples",
            FIELDS.entrySet().stream()
                    .map(field -> Column.plain(field.getValue(), field.getKey(), ColumnType.TEXT))
                    .toList(),
            Table.Placement.AFTER_LAST)));

    private static final List<String> RIGHT = List.of(
            "River is Wen",
            "River is Wen , Tarn or Quill Beck",
            "River is one of Wen , Tarn",
            "River is filled",
            "River , Water and Oxygen are filled",
            "River or Oxygen is filled",
            "Water is 5 to 6",
            "Water is between 5 and 6",
            "Water is from 5 to 6",
            "Water is at least 5",
            "Water is not below 5",
            "Water is 5 or more",
            "Water is at most 6",
            "Water is not above 6",
            "Water is 6 or less",
            "Water >= 5",
            "Water <= 6",
            "River has 5 to 6 characters",
            "River has at least 5 characters",
            "River has at most 6 characters",
            "River has 5 or more characters",
            "River has 6 characters",
            "River needs Oxygen");
    private static final List<String> TAILS = List.of("", " , else ask", " , else stop");
    private static final List<String> WORDS = List.of(
            ("River Water Oxygen is is not one of between from at least most and or to are filled empty Wen Tarn Beck 5 6 , , else"
                            + " ask stop more less above below has characters nor neither >= <= needs unless if")
                    .split(" "));
    /** A field of yes or no, or a comparison. */
    private static final String OPERAND = "\\w+(?: [<>]= \\w+)?";

    private static final String COMPARISONS = OPERAND + "(?: (?:and|or) " + OPERAND + ")*";

    private static final Set<String> VALUES =
            Set.of("Wen", "Tarn", "Quill", "Beck", "5", "6", "stop", "ask", "at", "of", "from", "one");
    /** What may be in a name, and does not begin one. */
    private static final Set<String> WITHIN = Set.of("River", "Water", "Oxygen", "above", "below", "empty");

    @Property(tries = 20_000)
    void aNearMissMeansWhatItSaysOrIsRefused(@ForAll Random random) {
        var words = new ArrayList<>(List.of((any(RIGHT, random) + any(TAILS, random)).split(" ")));
        for (int slips = random.nextInt(4); slips > 0 && words.size() > 1; slips--) {
            int at = random.nextInt(words.size());
            switch (random.nextInt(4)) {
                case 0 -> words.remove(at);
                case 1 -> words.add(at, any(WORDS, random));
                case 2 -> words.set(at, any(WORDS, random));
                default -> words.add(random.nextInt(words.size()), words.remove(at));
            }
        }
        var sentence = String.join(" ", words).replace(" ,", ",");
        var meant = new Plain(words).check();
        Optional<Check> read;
        try {
            read = Optional.of((Check) SENTENCES.read(sentence));
        } catch (Unclear unclear) {
            return;
        }
        // Comparisons are formulas, and so are fields of yes or no beside them; one that names what there is not is
        // refused where it is to be followed.
        boolean ofFormulas = read.get().rule() instanceof Check.Holds(var formula, var _)
                && (formula.matches(COMPARISONS)
                        || !FIELDS.values().containsAll(Formula.of(formula).names()));
        if (!ofFormulas) {
            assertThat(read).as(sentence).isEqualTo(meant);
        }
    }

    /** Each of those that are right is read. */
    @Property(tries = 1)
    void whatIsRightIsRead() {
        for (var right : RIGHT) {
            for (var tail : TAILS) {
                var sentence = right + tail;
                var meant = new Plain(List.of(sentence.split(" "))).check();
                if (meant.isPresent()) {
                    assertThat(SENTENCES.read(sentence.replace(" ,", ",")))
                            .as(sentence)
                            .isEqualTo(meant.get());
                }
            }
        }
    }

    private static <T> T any(List<T> of, Random random) {
        return of.get(random.nextInt(of.size()));
    }

    /** Reads word by word, with one way to say each thing and no thought for anything else. */
    private static final class Plain {
        private final List<String> words;
        private int at;

        Plain(List<String> words) {
            this.words = words;
        }

        Optional<Check> check() {
            return rule().flatMap(rule -> {
                boolean complete = rule instanceof Check.Complete;
                boolean asks = all(",", "else", "ask");
                boolean stops = !asks && all(",", "else", "stop");
                return at == words.size() && !(stops && complete)
                        ? Optional.of(new Check("", rule, asks || complete, false, ""))
                        : Optional.empty();
            });
        }

        private Optional<Check.Rule> rule() {
            var fields = new ArrayList<String>();
            int ors = 0;
            int ands = 0;
            do {
                if (at == words.size() || !FIELDS.containsKey(words.get(at))) {
                    return Optional.empty();
                }
                fields.add(FIELDS.get(words.get(at++)));
                boolean or = all("or");
                boolean and = !or && all("and");
                ors += or ? 1 : 0;
                ands += and ? 1 : 0;
                if (!or && !and && !all(",")) {
                    break;
                }
            } while (true);
            if (fields.size() > 1) {
                boolean filled = all("are", "filled") || all("is", "filled");
                return !filled || (ors > 0 && ands > 0)
                        ? Optional.empty()
                        : Optional.of(ors > 0 ? new Check.AnyOf(fields) : new Check.Complete(fields));
            }
            return of(fields.getFirst());
        }

        private Optional<Check.Rule> of(String field) {
            if (all("is", "filled")) {
                return Optional.of(new Check.AnyOf(List.of(field)));
            }
            if (all("has")) {
                return length(field);
            }
            if (all("needs")) {
                return at < words.size() && FIELDS.containsKey(words.get(at))
                        ? Optional.of(new Check.Needs(field, FIELDS.get(words.get(at++))))
                        : Optional.empty();
            }
            if (all("is", "at", "least") || all("is", "not", "below") || all(">=")) {
                return against(field, ">=").or(() -> value().map(least -> new Check.Range(field, least, "")));
            }
            if (all("is", "at", "most") || all("is", "not", "above") || all("<=")) {
                return against(field, "<=").or(() -> value().map(most -> new Check.Range(field, "", most)));
            }
            if (all("is", "between")) {
                return value().flatMap(from -> all("and") || all("to") ? span(field, from) : Optional.empty());
            }
            if (all("is", "from")) {
                return value().flatMap(from -> all("to") ? span(field, from) : Optional.empty());
            }
            boolean one = all("is", "one", "of");
            return one || all("is") ? value().flatMap(first -> following(field, first, one)) : Optional.empty();
        }

        /** Another field, which a sign alone is held against. */
        private Optional<Check.Rule> against(String field, String sign) {
            boolean one = words.get(at - 1).equals(sign)
                    && at < words.size()
                    && FIELDS.containsKey(words.get(at))
                    && (at + 1 == words.size() || words.get(at + 1).equals(","));
            return one
                    ? Optional.of(new Check.Holds(field + " " + sign + " " + FIELDS.get(words.get(at++)), field))
                    : Optional.empty();
        }

        private Optional<Check.Rule> span(String field, String from) {
            return value().map(to -> new Check.Range(field, from, to));
        }

        private Optional<Check.Rule> following(String field, String first, boolean one) {
            if (!one && all("to")) {
                return span(field, first);
            }
            if (!one && all("or", "more")) {
                return Optional.of(new Check.Range(field, first, ""));
            }
            if (!one && all("or", "less")) {
                return Optional.of(new Check.Range(field, "", first));
            }
            var list = new ArrayList<>(List.of(first));
            while (at + 1 < words.size() && !words.get(at + 1).equals("else") && (all(",") || all("or"))) {
                var next = value();
                if (next.isEmpty()) {
                    return Optional.empty();
                }
                list.add(next.get());
            }
            return Optional.of(new Check.OneOf(field, list));
        }

        private Optional<Check.Rule> length(String field) {
            boolean least = all("at", "least");
            boolean most = !least && all("at", "most");
            return number().flatMap(first -> {
                boolean more = !least && !most && all("or", "more");
                var to = !least && !most && !more && all("to") ? number() : Optional.of(first);
                return to.filter(last -> last >= first && (all("characters") || all("character")))
                        .map(last -> new Check.Length(field, most ? 0 : first, least || more ? 0 : last));
            });
        }

        private Optional<Integer> number() {
            return at < words.size() && words.get(at).matches("[0-9]+")
                    ? Optional.of(Integer.valueOf(words.get(at++)))
                    : Optional.empty();
        }

        private Optional<String> value() {
            int from = at;
            if (at + 1 < words.size()
                    && !words.get(at).matches("above|below")
                    && WITHIN.contains(words.get(at))
                    && goesOn(words.get(at + 1))) {
                at++;
            }
            while (at < words.size()
                    && (VALUES.contains(words.get(at)) || (WITHIN.contains(words.get(at)) && at > from))) {
                at++;
            }
            return at == from ? Optional.empty() : Optional.of(String.join(" ", words.subList(from, at)));
        }

        private static boolean goesOn(String word) {
            return VALUES.contains(word) || WITHIN.contains(word);
        }

        private boolean all(String... next) {
            if (at + next.length > words.size()
                    || !words.subList(at, at + next.length).equals(List.of(next))) {
                return false;
            }
            at += next.length;
            return true;
        }
    }
}
