package weft.store.form;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import weft.core.form.FormMaking;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class FormJsonTest {

    private static final String DOCUMENT = FormJson.write(FormMaking.from(
            new Table(
                    "samples",
                    "Samples",
                    Arrays.stream(ColumnType.values())
                            .map(type -> new Column(
                                    type.wire(),
                                    type.inWords(),
                                    type,
                                    true,
                                    false,
                                    OptionalInt.empty(),
                                    Optional.empty(),
                                    Optional.empty(),
                                    List.of("a"),
                                    OptionalInt.empty()))
                            .toList(),
                    Table.Placement.AFTER_LAST),
            "samples",
            Conventions.DEFAULT));

    @Test
    void aDocumentPassesItsSchemaAndComesBackTheSame() {
        assertThat(FormJson.write(FormJson.read(FormSchema.passed(DOCUMENT)))).isEqualTo(DOCUMENT);
    }

    @Test
    void whatIsNoFormIsRefusedWithThePlaceOfEachFault() {
        var bad = DOCUMENT.replace("\"density\":\"regular\"", "\"density\":\"loose\"")
                .replaceFirst("\"width\":\\d+", "\"width\":13");
        assertThatThrownBy(() -> FormSchema.passed(bad))
                .isInstanceOfSatisfying(
                        Faults.class,
                        faults -> assertThat(faults.faults())
                                .extracting(Faults.Fault::where)
                                .containsExactlyInAnyOrder("/density", "/sections/0/fields/0/width"));
    }
}
