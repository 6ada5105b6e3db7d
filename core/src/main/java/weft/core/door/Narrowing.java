package weft.core.door;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.entry.Assessment;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.find.Sort;
import weft.core.form.Button;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Field.Start;
import weft.core.form.Field.Use;
import weft.core.form.Field.Widget;
import weft.core.form.Form;
import weft.core.form.FormLines;
import weft.core.form.Item;
import weft.core.form.Picture;
import weft.core.form.Words;
import weft.core.formula.Formula;
import weft.core.record.StoredRow;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Table;

/**
 * A form and its table by a door. Entries are saved by one form, which has all rules and takes nothing that the door does
 * not let through; another, without what is left out, is what is sent.
 *
 * @param saving the form that entries are assessed and saved by
 * @param shown the form that is sent
 * @param table the columns that are sent
 */
public record Narrowing(Form saving, Form shown, Table table) {

    /** The form by that door, whose columns are called as the table calls them now. */
    public static Narrowing of(Form form, Table table, Door door) {
        if (door.isEverything()) {
            return new Narrowing(form, form, table);
        }
        var saving = saving(form, table, door);
        var gone = new HashSet<>(door.fields().leftOut());
        var kept = form.fields()
                .flatMap(field -> table.column(field.column()).stream())
                .map(Column::name)
                .filter(name -> !gone.contains(name))
                .collect(Collectors.toSet());
        table.columns().stream()
                .map(Column::name)
                .filter(name -> !kept.contains(name))
                .forEach(gone::add);
        return new Narrowing(saving, shown(saving, door, gone, kept), narrowed(table, kept));
    }

    private static Form saving(Form form, Table table, Door door) {
        var filled = door.filled().keySet();
        var changed = form.withFields(field -> {
            var name = table.column(field.column()).map(Column::name).orElse(field.column());
            boolean leftOut = door.fields().leftOut().contains(name);
            if (filled.contains(name)) {
                return field.used(leftOut ? Use.HIDDEN : Use.LOCKED).begun(Start.EMPTY);
            }
            var start = field.start();
            if (leftOut) {
                return field.used(Use.HIDDEN).begun(new Start(start.value(), false, false));
            }
            return door.fields().locked().contains(name)
                    ? field.used(field.use() == Use.HIDDEN ? Use.HIDDEN : Use.LOCKED)
                            .begun(new Start(start.value(), false, false, start.linked()))
                    : field;
        });
        var unseen = filled.stream()
                .flatMap(name -> table.column(name).stream())
                .filter(column -> form.fields().noneMatch(field -> column.answersTo(field.column())))
                .<Item>map(column -> Field.plain(
                                "by door " + column.name(), column.title(), column.name(), Widget.of(column.type()), 1)
                        .used(Use.HIDDEN))
                .toList();
        var sections = new ArrayList<>(changed.sections());
        if (!unseen.isEmpty()) {
            sections.add(new Form.Section("", 1, unseen));
        }
        return changed.withSections(sections).ruled(filling(form.rules(), door.filled()));
    }

    /** The rules with the door's formulas in place of what else would give those columns a value. */
    private static Rules filling(Rules rules, Map<String, String> filled) {
        if (filled.isEmpty()) {
            return rules;
        }
        var formulas = new ArrayList<>(rules.formulas().stream()
                .filter(each -> !filled.containsKey(each.target())
                        || (each.what() != Decides.DEFAULT && each.what() != Decides.CALCULATED))
                .toList());
        filled.forEach((column, formula) -> formulas.add(new Derived(column, Decides.DEFAULT, formula)));
        var fills = rules.fills().stream()
                .map(fill -> bringing(
                        fill,
                        fill.brings().stream()
                                .filter(tie -> !filled.containsKey(tie.column()))
                                .toList()))
                .toList();
        var numbers = rules.numbers().stream()
                .filter(each -> !filled.containsKey(each.column()))
                .toList();
        return new Rules(rules.checks(), fills, formulas, rules.choices(), numbers, rules.steps(), rules.practice());
    }

    private static Fill bringing(Fill fill, List<Fill.Tie> brings) {
        return new Fill(fill.id(), fill.table(), fill.keys(), brings, fill.none(), fill.several(), fill.writesBack());
    }

    private static Form shown(Form saving, Door door, Set<String> gone, Set<String> kept) {
        var rules = shown(saving.rules(), gone);
        var formulas = rules.formulas().stream().map(Derived::target).collect(Collectors.toSet());
        return saving.withSections(saving.sections().stream()
                        .map(section -> section.with(section.items().stream()
                                .filter(item -> switch (item) {
                                    case Field field -> kept.contains(field.column());
                                    case Calculated shown ->
                                        shown.column().isEmpty()
                                                ? formulas.contains(shown.id())
                                                : kept.contains(shown.column());
                                    case Button button -> works(button, saving, door, gone);
                                    case FormLines lines -> !gone.contains(lines.id());
                                    case Words _, Picture _ -> true;
                                })
                                .toList()))
                        .filter(section -> !section.items().isEmpty())
                        .toList())
                .trayed(saving.tray().stream().filter(kept::contains).toList())
                .ordered(Sort.by(saving.order().levels().stream()
                        .filter(level -> kept.contains(level.column()))
                        .toList()))
                .ruled(rules);
    }

    /** Whether a press could do what it is for: go where one may see, and set what is not kept from one. */
    private static boolean works(Button button, Form saving, Door door, Set<String> gone) {
        return switch (button.action()) {
            case NEW -> door.may().contains(May.ADD);
            case FIRST, PREVIOUS, NEXT, LAST, FIND -> door.may().contains(May.SEE);
            case DELETE -> door.may().contains(May.REMOVE);
            case STEPS ->
                saving.rules().stepsOf(button.id()).stream()
                        .map(Step::action)
                        .noneMatch(action -> action instanceof Step.SetField(var value)
                                && (gone.contains(value.column())
                                        || door.filled().containsKey(value.column())));
            case SAVE, CLEAR, PUT_BACK, CLOSE, OPEN -> true;
        };
    }

    /** What of the rules speaks of nothing that is gone. Steps and practice entries are not for those who key. */
    private static Rules shown(Rules rules, Set<String> gone) {
        return new Rules(
                rules.checks().stream().filter(check -> !speaks(check, gone)).toList(),
                rules.fills().stream()
                        .filter(fill -> fill.keys().stream().noneMatch(tie -> gone.contains(tie.column())))
                        .map(fill -> bringing(
                                fill,
                                fill.brings().stream()
                                        .filter(tie -> !gone.contains(tie.column()))
                                        .toList()))
                        .toList(),
                rules.formulas().stream()
                        .filter(each -> !gone.contains(each.target()) && !speaks(each.formula(), gone))
                        .toList(),
                rules.choices().stream()
                        .filter(each -> !gone.contains(each.column())
                                && each.when().stream().noneMatch(tie -> gone.contains(tie.column())))
                        .toList(),
                rules.numbers().stream()
                        .filter(each -> !gone.contains(each.column()))
                        .toList(),
                List.of(),
                List.of());
    }

    private static boolean speaks(Check check, Set<String> gone) {
        return check.rule().columns().stream().anyMatch(gone::contains)
                || (check.rule() instanceof Check.Holds(var formula, var _) && speaks(formula, gone));
    }

    private static boolean speaks(String formula, Set<String> gone) {
        try {
            var read = Formula.of(formula);
            return Stream.concat(read.names().stream(), read.namesOf("last").stream())
                    .anyMatch(gone::contains);
        } catch (Formula.Misread e) {
            return true;
        }
    }

    private static Table narrowed(Table table, Set<String> kept) {
        return table.with(table.columns().stream()
                        .filter(column -> kept.contains(column.name()))
                        .toList())
                .holding(table.constraints().stream()
                        .filter(constraint -> kept.containsAll(constraint.columns()))
                        .toList());
    }

    /** Whether the door leaves all as it is: then one form is both. */
    @SuppressWarnings("ReferenceEquality")
    private boolean whole() {
        return saving == shown;
    }

    private boolean gives(String column) {
        return table.columns().stream().anyMatch(each -> each.name().equals(column));
    }

    /** What of a record is sent. */
    public Shown<StoredRow> of(StoredRow row) {
        return new Shown<>(whole() ? row : new StoredRow(row.id(), row.row(), row.version(), given(row.values())));
    }

    /** What is sent of something that there is by column. */
    public <T> Shown<Map<String, T>> of(Map<String, T> byColumn) {
        return new Shown<>(given(byColumn));
    }

    private <T> Map<String, T> given(Map<String, T> byColumn) {
        var given = new LinkedHashMap<String, T>();
        byColumn.forEach((column, each) -> {
            if (gives(column)) {
                given.put(column, each);
            }
        });
        return given;
    }

    /** What of those values could be changed by hand. */
    public <T> Map<String, T> changeable(Map<String, T> values) {
        if (whole()) {
            return values;
        }
        var open = shown.fields().filter(Field::open).map(Field::column).collect(Collectors.toSet());
        var changeable = new LinkedHashMap<>(values);
        changeable.keySet().retainAll(open);
        return changeable;
    }

    /** What is said of a draft. */
    public Shown<Assessment> of(Assessment all) {
        if (whole()) {
            return new Shown<>(all);
        }
        var items = shown.items().map(Item::id).collect(Collectors.toSet());
        var said = new LinkedHashMap<>(all.shown());
        said.keySet().retainAll(items);
        var offers = new LinkedHashMap<>(all.offers());
        offers.keySet().retainAll(shown.rules().fills().stream().map(Fill::id).collect(Collectors.toSet()));
        return new Shown<>(new Assessment(
                given(all.values()),
                given(all.readings()),
                given(all.fields()),
                of(all.findings()).it(),
                offers,
                said,
                List.of()));
    }

    /** What is found, without a word of what is left out. */
    public Shown<Findings> of(Findings all) {
        return new Shown<>(
                whole()
                        ? all
                        : new Findings(all.all().stream()
                                .map(each -> each.field().isEmpty() || gives(each.field()) ? each : unseen(each))
                                .toList()));
    }

    private static Finding unseen(Finding finding) {
        return new Finding("", finding.severity(), new Cause.OutOfView(finding.code()), finding.rule());
    }
}
