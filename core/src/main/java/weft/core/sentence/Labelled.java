package weft.core.sentence;

import weft.core.formula.Formula;
import weft.core.table.Table;

/**
 * Formulas as people write them, with the labels of fields in place of the names of their columns: {@code Total = Quantity * Unit
 * price}. A formula that can be followed as it stands is left alone, and so is what is quoted in one.
 *
 * @param table whose columns formulas name
 * @param labels the columns by what people call them
 */
record Labelled(Table table, Names labels) {

    /** The formula with names of columns for labels, where only so it can be followed. */
    String named(String formula) {
        if (follows(formula)) {
            return formula;
        }
        var named = replaced(formula);
        return reads(named) ? named : formula;
    }

    /** Whether it is one, and names nothing that is only a label. */
    private boolean follows(String formula) {
        try {
            return Formula.of(formula).names().stream()
                    .noneMatch(name -> !isColumn(name)
                            && labels.of(name).filter(this::isColumn).isPresent());
        } catch (Formula.Misread misread) {
            return false;
        }
    }

    private static boolean reads(String formula) {
        try {
            Formula.of(formula);
            return true;
        } catch (Formula.Misread misread) {
            return false;
        }
    }

    private boolean isColumn(String name) {
        return table.column(name).isPresent();
    }

    private String replaced(String formula) {
        var named = new StringBuilder();
        for (int at = 0; at < formula.length(); ) {
            char c = formula.charAt(at);
            int end = at + 1;
            if (c == '"' || c == '`') {
                end = closed(formula, at);
            } else if (Character.isLetterOrDigit(c) || c == '_') {
                int from = at;
                var label = labels.longest(formula, at).filter(found -> isLabel(formula, from, found));
                if (label.isPresent()) {
                    named.append(label.get().name());
                    at = label.get().end();
                    continue;
                }
                while (end < formula.length() && !Scan.wordEnds(formula, end)) {
                    end++;
                }
            }
            named.append(formula, at, end);
            at = end;
        }
        return named.toString();
    }

    /**
     * Whether what stands there is a label and no word of formulas: one of several words in any case, a single one as it is written.
     * Behind a point, before a bracket or a colon stands something else.
     */
    private boolean isLabel(String formula, int from, Names.NameAt found) {
        var written = formula.substring(from, found.end());
        boolean spelled = written.indexOf(' ') > 0
                || labels.spelling(found.name()).filter(written::equals).isPresent();
        var after = formula.substring(found.end()).stripLeading();
        return spelled
                && isColumn(found.name())
                && !isColumn(written)
                && (from == 0 || formula.charAt(from - 1) != '.')
                && !after.startsWith("(")
                && !after.startsWith(":");
    }

    private static int closed(String formula, int open) {
        int close = open + 1;
        while (close < formula.length() && formula.charAt(close) != formula.charAt(open)) {
            close += formula.charAt(close) == '\\' ? 2 : 1;
        }
        return Math.min(close + 1, formula.length());
    }
}
