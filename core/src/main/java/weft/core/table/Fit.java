package weft.core.table;

import java.util.Optional;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Refusal;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Whether stored values fit a column as it is to be, and what they are then. */
public final class Fit {

    /** What Weft itself writes is written so. */
    private static final ValueReader PLAIN = ValueReader.ofStored(Conventions.DEFAULT);

    private final Column column;
    private final ValueReader reader;

    /**
     * For the column as it is to be.
     *
     * @param written how dates and numbers are written in stored text, where somebody has said so
     */
    public Fit(Column column, Optional<Conventions> written) {
        this.column = column;
        this.reader = written.map(ValueReader::ofGrouped).orElseGet(() -> ValueReader.ofStored(Conventions.DEFAULT));
    }

    /** The value as the column would hold it, or refused with a sentence. */
    public Reading of(Value stored) {
        var reading = (stored instanceof Value.Text ? reader : PLAIN).read(column.kind(), text(stored));
        return reading instanceof Reading.Read(var value, var _) && !value.isEmpty() ? within(value, reading) : reading;
    }

    private static String text(Value stored) {
        return stored instanceof Value.YesNo ? stored.spoken() : stored.plain();
    }

    private Reading within(Value value, Reading fitting) {
        return column.outOf(value)
                .<Reading>map(side -> new Reading.Refused(
                        switch (side) {
                            case BELOW -> new Refusal.Below(column.min().orElseThrow());
                            case ABOVE -> new Refusal.Above(column.max().orElseThrow());
                        }))
                .orElse(fitting);
    }
}
