package weft.core.entry;

import java.util.List;
import java.util.Optional;
import weft.core.formula.Formula;
import weft.core.formula.Pattern;
import weft.core.formula.Template;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.value.Value;

/** A check made ready: its columns found, its formula, pattern and bounds read. */
record PlannedCheck(
        Check check,
        List<Column> columns,
        Optional<Formula> formula,
        Optional<Pattern> pattern,
        Optional<Value> from,
        Optional<Value> to,
        Optional<Template> message) {}
