package weft.core.entry.plan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import weft.core.entry.draft.Known;
import weft.core.entry.plan.EntryPlan.PlanFault;
import weft.core.formula.Formula;
import weft.core.formula.Template;
import weft.core.table.Column;
import weft.core.table.Names;
import weft.core.table.Table;

/** Reads what rules write, and finds what they name. What cannot be read or found is empty, and said among the {@linkplain #faults() faults}. */
final class RuleReader {

    private static final String LAST = "last";

    private final Table table;
    private final Function<String, Optional<Table>> tables;
    private final Map<String, Table> lists;
    private final List<PlanFault> faults = new ArrayList<>();
    private final Set<String> looksBack = new HashSet<>();

    /**
     * For rules on a table.
     *
     * @param tables the other tables, by name
     * @param lists what formulas may name as a list, and the tables that its lines are of
     */
    RuleReader(Table table, Function<String, Optional<Table>> tables, Map<String, Table> lists) {
        this.table = table;
        this.tables = tables;
        this.lists = lists;
    }

    /** What could not be read or found so far. */
    List<PlanFault> faults() {
        return List.copyOf(faults);
    }

    /** What formulas that were read so far ask for of the entry before: columns, and {@code last} for the entry itself. */
    Set<String> looksBack() {
        return Set.copyOf(looksBack);
    }

    private void lookingBack(Formula formula) {
        if (formula.names().contains(LAST)) {
            looksBack.add(LAST);
            looksBack.addAll(formula.namesOf(LAST));
        }
    }

    void fault(String about, String sentence) {
        faults.add(new PlanFault(about, sentence));
    }

    Optional<Formula> formula(String about, String text) {
        var formula = read(about, () -> formula(text));
        formula.ifPresent(this::lookingBack);
        return formula;
    }

    Optional<Template> template(String about, String text) {
        return read(about, () -> {
            var template = Template.of(text);
            template.formulas().forEach(this::checked);
            template.formulas().forEach(this::lookingBack);
            return template;
        });
    }

    /** What that reads, or empty and a fault when it is misread. */
    <T> Optional<T> read(String about, Supplier<T> reading) {
        try {
            return Optional.of(reading.get());
        } catch (Formula.Misread misread) {
            fault(about, misread.sentence());
            return Optional.empty();
        }
    }

    /**
     * Reads a formula on the table.
     *
     * @throws Formula.Misread when it is none, or names what there is not
     */
    Formula formula(String text) {
        var formula = read(table, text);
        checked(formula);
        known(table, formula.namesOf("last"));
        return formula;
    }

    private void checked(Formula formula) {
        var names = new HashSet<>(formula.names());
        lists.forEach((list, of) -> {
            if (names.remove(list)) {
                // Within a list, its columns go by their bare names, and a line by whatever name it is given.
                names.removeIf(name -> of.column(name).isPresent());
                names.removeAll(formula.given());
                known(of, formula.namesOf(list));
            }
        });
        known(table, names);
        paths(formula);
    }

    /** What it asks of the records that are linked to. */
    private void paths(Formula formula) {
        for (var column : table.columns()) {
            var link = column.link();
            if (link.isPresent()) {
                var asked = new HashSet<>(formula.namesOf(column.name()));
                column.former().forEach(name -> asked.addAll(formula.namesOf(name)));
                tables.apply(link.get().to()).ifPresent(to -> known(to, asked));
            }
        }
    }

    /** A column whose name is a word of formulas too is put in backticks where the formula can be read no other way. */
    private static Formula read(Table table, String text) {
        try {
            return Formula.of(text);
        } catch (Formula.Misread misread) {
            var quoted = text;
            for (var column : table.columns()) {
                if (Names.ofFormulas(column.name())) {
                    quoted = quoted.replaceAll(
                            "(?<![\\w`\"])" + column.name() + "(?![\\w`\"])", "`" + column.name() + "`");
                }
            }
            if (quoted.equals(text)) {
                throw misread;
            }
            return Formula.of(quoted);
        }
    }

    private static void known(Table table, Set<String> names) {
        names.stream()
                .filter(name ->
                        !Known.AROUND.contains(name) && table.column(name).isEmpty())
                .sorted()
                .findFirst()
                .ifPresent(name -> {
                    throw Formula.misnamed(name, table.title(), Nearest.to(name, table));
                });
    }

    Optional<Table> other(String about, String name) {
        var other = tables.apply(name);
        if (other.isEmpty()) {
            fault(about, "There is no table “%s” any more.".formatted(name));
        }
        return other;
    }

    Optional<Column> column(String about, Table of, String name) {
        var column = of.column(name);
        if (column.isEmpty()) {
            fault(about, "%s has no column “%s” any more.".formatted(of.title(), name));
        }
        return column;
    }
}
