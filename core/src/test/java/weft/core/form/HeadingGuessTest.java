package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.form.HeadingGuess.Proposal;
import weft.core.table.Table;
import weft.core.value.Conventions;

class HeadingGuessTest {

    @ParameterizedTest(name = "{0}")
    @CsvSource(delimiter = '|', textBlock = """
            Born on          | date      | “Born” tells a date
            Taken on         | date      | “on” tells a date
            Date of purchase | date      | “Date” tells a date
            Paid             | yes or no | “Paid” tells yes or no
            Is it wet        | yes or no | “Is” tells yes or no
            Came back?       | yes or no | “?” asks for yes or no
            E-mail           | email     | “E-mail” tells e-mail addresses
            email address    | email     | “email” tells e-mail addresses
            Mobile           | phone     | “Mobile” tells phone numbers
            At               | time      | “At” tells a time
            Day charge       | money     | “charge” tells money
            Price            | money     | “Price” tells money
            Number of eggs   | whole     | “Number of” tells whole numbers
            Remarks          | long text | “Remarks” tells long text
            """)
    void wordsOfAHeadingTellWhatItHolds(String heading, String say, String why) {
        assertThat(HeadingGuess.of(heading)).contains(new Proposal(say, why));
    }

    @ParameterizedTest
    @CsvSource({
        "Site",
        "Remark",
        "Station",
        "Online shop",
        "Timeline",
        "Costume",
        "Noted by",
        "pH",
        "Condition",
        "Mailing list"
    })
    void wordsThatOnlyBeginSoTellNothing(String heading) {
        assertThat(HeadingGuess.of(heading)).isEqualTo(Optional.empty());
    }

    @Property
    void whatIsProposedIsUnderstoodBehindItsHeading(@ForAll String heading) {
        var table = new Table("t", "T", List.of(), Table.Placement.AFTER_LAST);
        var label = heading.replace(",", "").replace("\"", "").strip();
        if (label.isEmpty() || label.length() > 100) {
            return;
        }
        HeadingGuess.of(label)
                .ifPresent(proposal -> assertThat(QuickLine.read(
                                label + ", " + proposal.say(), table, _ -> Optional.empty(), Conventions.DEFAULT))
                        .isInstanceOf(QuickLine.QuickField.class));
    }
}
