package weft.core.sentence;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.core.sentence.River.SENTENCES;
import static weft.core.sentence.River.refusal;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Placed;
import weft.core.rule.Step;
import weft.core.sentence.Sentences.Completion;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;

class SentencesTest {

    /** What is typed, and how it then reads; the same where nothing comes after the arrow. */
    private static final String READINGS = """
            pH is 6 to 9, else ask "A pH of {ph} is rare here." -> asks unless pH is between 6 and 9: "A pH of {ph} is rare here."
            ph IS  between 6 and 9 -> stops unless pH is between 6 and 9
            pH >= 6 -> stops unless pH is at least 6
            pH is 9 or less, else ask -> asks unless pH is at most 9
            At is 22:00 to 6:00 -> stops unless At is between 22:00 and 6:00
            Taken on is from 1 Jan 2015 to 31 Dec 2100, else stop -> stops unless Taken on is between 1 Jan 2015 and 31 Dec 2100
            Phone or E-mail is filled -> stops unless Phone or E-mail is filled
            Phone or Code is filled -> stops unless Phone or Code is filled
            Water, pH, Oxygen and Flow are filled, else ask -> asks unless Water, pH, Oxygen and Flow are filled
            Water and pH are filled -> asks unless Water and pH are filled
            everything is filled -> asks unless everything is filled
            Code looks like AB-12 -> stops unless Code looks like AB-12
            Code looks like QB-03, else stop and stay "A code is like QB-03." -> stops and stays unless Code looks like AB-12: "A code is like QB-03."
            E-mail looks like an e-mail address -> stops unless E-mail looks like an e-mail address
            Code matches /K-\\d{2}/ -> stops unless Code matches /K-\\d{2}/
            Code has 3 to 5 characters -> stops unless Code has 3 to 5 characters
            Code has at most 5 characters -> stops unless Code has 0 to 5 characters
            River is Wen, "Upper Wen" or Tarn, else ask -> asks unless River is one of Wen, Upper Wen, Tarn
            At needs Taken on -> stops unless At needs Taken on
            to_at > from_at, else stop at To "It ends before it begins." -> stops unless to_at > from_at, at To: "It ends before it begins."
            days = 3, else ask -> asks unless days = 3, at Days
            no two alike in River, Taken on, At -> no two alike in River, Taken on, At
            Water is as usual for River, month(Taken on), else ask -> asks unless Water is as usual for River, month(Taken on)
            Water is as usual for River and hour(At), of all records -> asks unless Water is as usual for River, hour(At), of all records
            River is as usual, of all records, else ask -> asks unless River is as usual, of all records
            no overlap from From to To for one Kit tag -> no overlap from From to To for one Kit tag
            Code brings Site name, River from sites by code, else stop -> Code brings Site name, River from sites by code, else stop
            Code brings Site name = code from Sites, if several ask, writing changes back -> Code brings Site name = code from sites by code, if several ask, writing changes back
            Taken by is chosen from volunteers by name, showing role -> Taken by is chosen from volunteers by name, showing role
            Taken by is chosen from volunteers by name, where team = River, or anything else -> Taken by is chosen from volunteers by name, where team = River, or anything else
            Days = floor(days(to_at - from_at)) + 1 -> Days = floor(days(to_at - from_at)) + 1
            Total shows sum(counts.count) -> Total shows sum(counts.count)
            Taken on begins as today() -> Taken on begins as today()
            Cost is shown if repair_needed -> Cost is shown if repair_needed
            Cost is needed if status = "done" -> Cost is needed if status = "done"
            Number is numbered S-{year}-{0000} -> Number is numbered S-{year}-{0000}
            once saved, if needs_follow_up: add to incidents with site = site_code, sample = number -> once saved, if needs_follow_up: add to incidents with site = site_code, sample = number
            once saved: ask "Send a confirmation?" yes, no or cancel, usually no -> once saved: ask "Send a confirmation?" yes, no or cancel, usually no
            once saved: send to {e_mail} "Your booking" "Dear {taken_by},\\nthank you." -> once saved: send to {e_mail} "Your booking" "Dear {taken_by},\\nthank you."
            once changed: change sites where code = code with name = site_name, river = "x, y" -> once changed: change sites where code = code with name = site_name, river = "x, y"
            when Send it is pressed: open Bookings of kit with tag = code -> when Send it is pressed: open bookings with tag = code
            when Send it is pressed, if ph > 9: go to new -> when Send it is pressed, if ph > 9: go to new
            """;

    @TestFactory
    Stream<DynamicTest> whatIsTypedReadsSo() {
        return READINGS.lines()
                .map(line -> line.split(" -> "))
                .map(each -> DynamicTest.dynamicTest(
                        each[0],
                        () -> assertThat(SENTENCES.of(SENTENCES.read(each[0])).text())
                                .isEqualTo(each[1])));
    }

    @Test
    void whatIsReadIsTheRuleThatIsMeant() {
        assertThat(SENTENCES.read("pH is 6 to 9, else ask \"A pH of {ph} is rare here.\""))
                .isEqualTo(new Check("", new Check.Range("ph", "6", "9"), true, false, "A pH of {ph} is rare here."));
        assertThat(SENTENCES.read("Code brings River from sites by code, else stop"))
                .isEqualTo(new Fill(
                        "",
                        "sites",
                        List.of(new Fill.Tie("code", "code")),
                        List.of(new Fill.Tie("river", "river")),
                        Fill.None.STOP,
                        Fill.Several.CHOOSE,
                        false));
        assertThat(SENTENCES.read("once saved: add to incidents with what = \"a, site = b\", site = site_code"))
                .isEqualTo(new Placed(
                        "saved",
                        new Step(
                                "",
                                new Step.AddRow(
                                        "incidents",
                                        List.of(
                                                new Step.Setting("what", "\"a, site = b\""),
                                                new Step.Setting("site", "site_code"))))));
        assertThat(SENTENCES.read("Code looks like AB-12"))
                .isEqualTo(new Check("", new Check.Matches("code", "[A-Z]{2}-[0-9]{2}"), false, false, ""));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    ''                                | Nothing is said. There could stand
                    pF is 6 to 9                      | “pF is 6 …” is not understood. There could stand
                    pH is                             | Something is missing after “pH is”. There could stand
                    pH is 6 to                        | Something is missing after “pH is 6 to”. There could stand a value.
                    Code brings River from nowhere    | There is no table “nowhere”.
                    Code brings River = depth from sites | Sites has no column “depth”.
                    Code brings Oxygen from sites by code | Say which column goes with “oxygen”, such as: Oxygen = name.
                    pH is 6 to 9, else ask "rare      | What is begun here with " is never ended with ".
                    Water and pH are filled, else stop | What is left empty is asked about.
                    to_at > , else stop at To         | The formula can't be read from character 7 on
                    pH is 6 to 9, otherwise ask       | “otherwise ask” is not understood. There could stand “else stop” or “else ask”.
                    once saved: explode               | “explode” is not understood. There could stand “save”
                    """)
    void whatCantBeReadIsToldAtItsPlaceWithWhatWouldBeRight(String typed, String sentence) {
        assertThat(refusal(typed)).hasValueSatisfying(said -> assertThat(said).startsWith(sentence));
    }

    @Test
    void fieldsTablesAndWordsAreCompletedWhileTyping() {
        assertThat(offered("Tak")).containsExactly("Taken on", "Taken by");
        assertThat(offered("Site")).contains("Site name");
        assertThat(offered("pH is b")).startsWith("is between");
        assertThat(offered("Taken by is chosen from vol")).containsExactly("volunteers");
        assertThat(offered("Taken by is chosen from volunteers by ")).contains("name", "role", "team");
        assertThat(offered("once saved: add to incidents with s")).containsExactly("site", "sample");
        assertThat(offered("pH is 6 to 9, e")).startsWith("else stop", "else ask");
        assertThat(SENTENCES.completions("pH needs Ta")).contains(new Completion(9, "Taken on", true));
    }

    @Test
    void everySentenceCanBeTypedWithWhatIsOfferedOnTheWay() {
        var begun = "once saved, if ph > 9: change sites where code = code with name = site_name";
        for (var word : List.of("once", "change", "where", "with", "name")) {
            int end = begun.indexOf(word) + word.length();
            assertThat(offered(begun.substring(0, end - 1)))
                    .as(begun.substring(0, end))
                    .anyMatch(each -> begun.substring(0, end).endsWith(each) || each.startsWith(word));
        }
    }

    private static List<String> offered(String begun) {
        return SENTENCES.completions(begun).stream().map(Completion::text).toList();
    }

    @Test
    void aRenamedFieldIsCalledSoInEverySentence() {
        var terms = River.TERMS;
        var renamed = new Sentences(new Terms(
                terms.table(),
                terms.fields().stream()
                        .map(field -> field.name().equals("ph") ? new Terms.Term("ph", "Acidity") : field)
                        .toList(),
                terms.shown(),
                terms.buttons(),
                terms.others(),
                terms.tables(),
                terms.forms()));
        for (var typed : List.of(
                "pH is 6 to 9", "Water, pH are filled", "At needs pH", "pH begins as 7", "no two alike in pH")) {
            assertThat(renamed.of(SENTENCES.read(typed)).text())
                    .contains("Acidity")
                    .doesNotContain("pH");
        }
    }

    /** What a formula names itself, quotes or calls is no column, whatever it is called. */
    @Test
    void aRenamedColumnIsCalledSoInFormulasAndTextsToo() {
        var table = River.TERMS.table();
        var later = table.with(table.columns().stream()
                .map(column -> column.name().equals("ph")
                        ? Column.plain("acidity", "Acidity", column.type()).once(List.of("ph", "max"))
                        : column)
                .toList());
        var renamed = new Sentences(Terms.of(later));
        for (var each : List.of(
                List.of(
                        "ph > 6 and ph < 9, else ask at Acidity \"A pH of {ph} is rare.\"",
                        "asks unless acidity > 6 and acidity < 9, at Acidity: \"A pH of {acidity} is rare.\""),
                List.of(
                        "once saved, if ph > 9: say \"ph is {ph + 1}\"",
                        "once saved, if acidity > 9: say \"ph is {acidity + 1}\""))) {
            assertThat(renamed.of(renamed.read(each.getFirst())).text()).isEqualTo(each.getLast());
        }
        var now = new NamesNow(later, _ -> Optional.empty());
        assertThat(now.formula("\"ph\" + string(ph) + x.ph + max(ph, 7)"))
                .isEqualTo("\"ph\" + string(acidity) + x.ph + max(acidity, 7)");
        assertThat(now.formula("sum(for ph in [1,2] return ph)")).isEqualTo("sum(for ph in [1,2] return ph)");
        assertThat(now.formula("{ph: 1}.ph + 2")).isEqualTo("{ph: 1}.ph + 2");
        assertThat(now.formula("(function(ph) ph * 2)(3)")).isEqualTo("(function(ph) ph * 2)(3)");
        assertThat(now.formula("ph.x + phosphate + $")).isEqualTo("acidity.x + phosphate + $");
    }

    @Test
    void aRenamedColumnOfAnotherTableIsCalledSoToo() {
        var terms = River.TERMS;
        var sites = terms.others().apply("sites").orElseThrow();
        var later = sites.with(sites.columns().stream()
                .map(column -> column.name().equals("name")
                        ? Column.plain("called", "Called", column.type()).once(List.of("name"))
                        : column)
                .toList());
        var renamed = new Sentences(new Terms(
                terms.table(),
                terms.fields(),
                terms.shown(),
                terms.buttons(),
                name -> name.equals("sites")
                        ? Optional.of(later)
                        : terms.others().apply(name),
                terms.tables(),
                terms.forms()));
        assertThat(renamed.of(SENTENCES.read("Code brings Site name from sites by code"))
                        .text())
                .isEqualTo("Code brings Site name = called from sites by code");
        assertThat(renamed.of(SENTENCES.read("River is chosen from sites by river, showing name"))
                        .text())
                .isEqualTo("River is chosen from sites by river, showing called");
        assertThat(renamed.of(SENTENCES.read("once saved: add to sites with name = site_name"))
                        .text())
                .isEqualTo("once saved: add to sites with called = site_name");
    }

    @Test
    void thePiecesOfASentenceSayWhatTheyAre() {
        var pieces =
                SENTENCES.of(SENTENCES.read("pH is 6 to 9, else ask \"Rare.\"")).pieces();
        assertThat(pieces)
                .containsExactly(
                        new Piece(Piece.Role.ASKS, "asks", ""),
                        new Piece(Piece.Role.WORD, " unless ", ""),
                        new Piece(Piece.Role.FIELD, "pH", "ph"),
                        new Piece(Piece.Role.WORD, " is between ", ""),
                        new Piece(Piece.Role.VALUE, "6", ""),
                        new Piece(Piece.Role.WORD, " and ", ""),
                        new Piece(Piece.Role.VALUE, "9", ""),
                        new Piece(Piece.Role.WORD, ": ", ""),
                        new Piece(Piece.Role.TEXT, "\"Rare.\"", ""));
        assertThat(Arrays.asList(Piece.Role.values()))
                .containsAll(pieces.stream().map(Piece::kind).toList());
    }

    /** What could be meant otherwise is asked at its place, and never kept as a value. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "River is not Wen",
                "River is empty",
                "River is mandatory",
                "River is < 5",
                "River is neither Wen nor Tarn",
                "River is Wen else ask",
                "River is Wen,Tarn",
                "River is one of Wen, not Tarn",
                "River is above 5",
                "Phone and E-mail or Code is filled",
                "Code has 20 to 6 characters"
            })
    void whatCouldBeReadTwoWaysIsRefused(String sentence) {
        assertThat(refusal(sentence)).as(sentence).isPresent();
    }

    /** What nobody would take for the language is a value as it stands. */
    @ParameterizedTest
    @ValueSource(strings = {"no", "none", "in", "Underhill", "empty shell", "Notting Weir", "over"})
    void ordinaryWordsAreValues(String word) {
        assertThat(((Check) SENTENCES.read("River is " + word)).rule())
                .isEqualTo(new Check.OneOf("river", List.of(word)));
    }

    @Test
    void inQuotesEveryWordIsAValue() {
        for (var word : List.of("not Wen", "empty", "< 5", "Wen else ask", "Wen,Tarn", "else")) {
            var rule = SENTENCES.read("River is \"" + word + "\"");
            assertThat(((Check) rule).rule()).isEqualTo(new Check.OneOf("river", List.of(word)));
            assertThat(SENTENCES.read(SENTENCES.of(rule.named("c")).text()).named("c"))
                    .isEqualTo(rule.named("c"));
        }
    }

    /** As people write them: labels of one word as they are spelled, of several in any case; columns' own names go on working. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    Cost = Days * Water                      | days * water_c
                    Cost = Days * site name                  | days * site_name
                    Cost = days * Water                      | days * water_c
                    Cost = if Taken on > today() then Days else Kit tag | if taken_on > today() then days else kit_tag
                    Cost = sum(for Days in [1, 2] return Days) + Water | sum(for days in [1, 2] return days) + water_c
                    Cost = "Water" + Kit tag                 | "Water" + kit_tag
                    Cost = days(To - From)                   | days(to_at - from_at)
                    Cost = Qantity * 2                       | Qantity * 2
                    """)
    void aFormulaMayNameFieldsByTheirLabels(String typed, String formula) {
        assertThat(((Derived) SENTENCES.read(typed)).formula()).isEqualTo(formula);
    }

    @Test
    void aFormulaInQuotesIsTakenAsItStands() {
        assertThat(((Derived) SENTENCES.read("Cost = formula \"Days * Water\"")).formula())
                .isEqualTo("Days * Water");
        assertThat(((Check) SENTENCES.read("To >= From, else stop at To")).rule())
                .isEqualTo(new Check.Holds("to_at >= from_at", "to_at"));
    }

    @Test
    void aSignAgainstAnotherFieldIsAFormula() {
        assertThat(((Check) SENTENCES.read("to_at >= from_at, else stop at To")).rule())
                .isEqualTo(new Check.Holds("to_at >= from_at", "to_at"));
    }

    /** Whatever fields a form has, its examples speak of them alone, and are read back as what they say. */
    @Test
    void examplesAreMadeOfTheFormsOwnFields() {
        var types = ColumnType.values();
        var random = new Random(7);
        for (int form = 0; form < 300; form++) {
            var columns = IntStream.range(0, random.nextInt(9))
                    .mapToObj(n -> Column.plain("c" + n, "Field " + n, types[random.nextInt(types.length)])
                            .of(List.of("low", "high"))
                            .required(random.nextInt(3) == 0))
                    .toList();
            var others = List.of(
                    new Table("places", "Places", columns, Table.Placement.AFTER_LAST),
                    new Table("none", "None", List.of(), Table.Placement.AFTER_LAST));
            var table = new Table("visits", "Visits", columns, Table.Placement.AFTER_LAST);
            var alone = Terms.of(table);
            var terms = new Terms(
                    table,
                    alone.fields(),
                    List.of(),
                    List.of(),
                    name -> others.stream()
                            .filter(other -> other.name().equals(name))
                            .findFirst(),
                    () -> List.of("visits", "none", "places"),
                    List::of);
            var sentences = new Sentences(terms);
            for (var rule : sentences.examples()) {
                var text = sentences.of(rule).text();
                assertThat(sentences.read(text).named("")).as(text).isEqualTo(rule.named(""));
            }
        }
        assertThat(SENTENCES.examples().stream()
                        .map(rule -> SENTENCES.of(rule).text())
                        .toList())
                .contains(
                        "stops unless Site name needs Site",
                        "no two alike in Site, Site name",
                        "asks unless Site has 2 to 20 characters");
    }
}
