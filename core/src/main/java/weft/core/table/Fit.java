package weft.core.table;

import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Whether stored values fit a column as it is to be, and what they are then. */
public final class Fit {

    private static final ValueReader READER = ValueReader.ofStored(Conventions.DEFAULT);

    private final Column column;

    /** For the column as it is to be. */
    public Fit(Column column) {
        this.column = column;
    }

    /** The value as the column would hold it, or refused with a sentence. */
    public Reading of(Value stored) {
        var text = stored instanceof Value.YesNo ? stored.spoken() : stored.plain();
        var reading = READER.read(column.kind(), text);
        return reading instanceof Reading.Read(var value, var _) && !value.isEmpty() ? within(value, reading) : reading;
    }

    private Reading within(Value value, Reading fitting) {
        return column.outOf(value)
                .<Reading>map(side -> new Reading.Refused(
                        Reading.Reason.RANGE,
                        switch (side) {
                            case BELOW ->
                                "It is below " + column.min().orElseThrow().spoken() + ".";
                            case ABOVE ->
                                "It is above " + column.max().orElseThrow().spoken() + ".";
                        }))
                .orElse(fitting);
    }
}
