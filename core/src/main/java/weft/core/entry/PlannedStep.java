package weft.core.entry;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weft.core.formula.Formula;
import weft.core.formula.Template;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Table;

/**
 * A step made ready.
 *
 * @param onlyIf what must say yes for it to be taken
 * @param table the table that it writes to
 * @param where which columns of that table must be what
 * @param values which columns are set to what
 * @param texts its texts, by the name of their place
 */
record PlannedStep(
        Step step,
        Optional<Formula> onlyIf,
        Optional<Table> table,
        List<Set> where,
        List<Set> values,
        Map<String, Template> texts) {

    /** A column, and the formula that it is set to. A form to be opened has columns that are not looked at here. */
    record Set(String name, Optional<Column> column, Formula formula) {}
}
