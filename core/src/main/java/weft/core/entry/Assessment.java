package weft.core.entry;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weft.core.entry.draft.FieldState;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.value.Value;

/**
 * What the engine makes of a draft.
 *
 * @param values the typed value of every field that could be read, by column name, in tab order
 * @param readings how fields were understood, in words, where that says more than what was typed
 * @param fields how each field stands, by column name
 * @param findings what stops it or asks; what was answered with yes is left out
 * @param offers by the id of a fill for which several records match, those to choose from
 * @param shown by the id of a shown value, what it shows
 * @param backs what is to be written back to the records that fills took it from
 */
public record Assessment(
        Map<String, Value> values,
        Map<String, String> readings,
        Map<String, FieldState> fields,
        Findings findings,
        Map<String, List<StoredRow>> offers,
        Map<String, String> shown,
        List<Write> backs) {

    public Assessment {
        values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
        readings = Collections.unmodifiableMap(new LinkedHashMap<>(readings));
        fields = Collections.unmodifiableMap(new LinkedHashMap<>(fields));
        offers = Map.copyOf(offers);
        shown = Map.copyOf(shown);
        backs = List.copyOf(backs);
    }

    /** The same of an entry that stays as it is, whatever is written beside it. */
    public Assessment writingNothing() {
        return new Assessment(Map.of(), readings, fields, findings, offers, shown, backs);
    }

    /** The same with values of columns that no field is threaded to. */
    public Assessment also(Map<String, Value> beside) {
        var all = new LinkedHashMap<>(beside);
        all.putAll(values);
        return new Assessment(all, readings, fields, findings, offers, shown, backs);
    }

    /** The same with one finding more. */
    Assessment finding(Finding another) {
        var all = new ArrayList<>(findings.all());
        all.add(another);
        return new Assessment(values, readings, fields, new Findings(all), offers, shown, backs);
    }
}
