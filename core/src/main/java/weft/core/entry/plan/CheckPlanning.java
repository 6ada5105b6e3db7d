package weft.core.entry.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weft.core.entry.plan.ReadyCheck.Notice;
import weft.core.form.Form;
import weft.core.formula.Pattern;
import weft.core.formula.Template;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.table.Limits;
import weft.core.table.Table;
import weft.core.usual.Grouping;
import weft.core.usual.Grouping.Part;
import weft.core.value.ColumnType;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Makes the checks of a form ready. */
final class CheckPlanning {

    private final Form form;
    private final Table table;
    private final RuleReader reader;

    CheckPlanning(Form form, Table table, RuleReader reader) {
        this.form = form;
        this.table = table;
        this.reader = reader;
    }

    /** The check made ready; empty when it cannot be followed. */
    Optional<ReadyCheck> ready(Check check) {
        var columns = columns(check);
        return columns.isEmpty() ? Optional.empty() : ready(check, told(check), columns.get());
    }

    private Notice told(Check check) {
        var message =
                check.message().isBlank() ? Optional.<Template>empty() : reader.template(check.id(), check.message());
        return new Notice(check.id(), check.asks(), message);
    }

    private Optional<List<Column>> columns(Check check) {
        var columns = new ArrayList<Column>();
        for (var name : check.rule().columns()) {
            var column =
                    table.column(name).filter(each -> form.fieldOf(each.name()).isPresent());
            if (column.isEmpty()) {
                reader.fault(check.id(), "The check speaks of “%s”, which the form has no field for.".formatted(name));
                return Optional.empty();
            }
            columns.add(column.get());
        }
        return Optional.of(columns);
    }

    private Optional<ReadyCheck> ready(Check check, Notice told, List<Column> columns) {
        return switch (check.rule()) {
            case Check.AnyOf _ -> Optional.of(new ReadyCheck.AnyOf(told, columns));
            case Check.Complete _ -> Optional.of(new ReadyCheck.Complete(told, columns));
            case Check.Needs _ -> Optional.of(new ReadyCheck.Needs(told, columns.get(0), columns.get(1)));
            case Check.Alike alike -> alike(check, alike, told, columns);
            case Check.Usual usual -> usual(check, usual, told, columns);
            case Check.Length(var _, int from, int to) ->
                Optional.of(new ReadyCheck.Length(told, columns.getFirst(), from, to));
            case Check.OneOf(var _, var list) ->
                Optional.of(new ReadyCheck.OneOf(told, columns.getFirst(), values(check, columns.getFirst(), list)));
            case Check.Range(var _, var from, var to) ->
                Optional.of(
                        new ReadyCheck.Range(told, columns.getFirst(), limits(check, columns.getFirst(), from, to)));
            case Check.Matches(var _, var pattern) ->
                reader.read(check.id(), () -> Pattern.of(pattern))
                        .map(read -> new ReadyCheck.Matches(told, columns.getFirst(), read));
            case Check.Holds(var formula, var _) ->
                reader.formula(check.id(), formula).map(read -> new ReadyCheck.Holds(told, columns.getFirst(), read));
        };
    }

    private Optional<ReadyCheck> alike(Check check, Check.Alike alike, Notice told, List<Column> columns) {
        var picture = columns.stream()
                .filter(column -> column.type() == ColumnType.PICTURE)
                .findFirst();
        picture.ifPresent(column -> reader.fault(
                check.id(), "Pictures are not compared. Leave %s out of the rule.".formatted(column.title())));
        return picture.isPresent()
                ? Optional.empty()
                : Optional.of(new ReadyCheck.Alike(told, columns, alike.sound(), alike.all()));
    }

    private Optional<ReadyCheck> usual(Check check, Check.Usual usual, Notice told, List<Column> columns) {
        var by = new ArrayList<Part>();
        for (int i = 0; i < usual.by().size(); i++) {
            by.add(new Part(columns.get(i + 1), usual.by().get(i).of()));
        }
        var grouping = new Grouping(columns.getFirst(), by, usual.all());
        var wrong = table.adopted()
                ? Optional.of("%s was not made by Weft, and what is usual is not counted in such a table."
                        .formatted(table.title()))
                : grouping.wrong();
        wrong.ifPresent(words -> reader.fault(check.id(), words));
        return wrong.isPresent() ? Optional.empty() : Optional.of(new ReadyCheck.Usual(told, grouping));
    }

    private List<Value> values(Check check, Column column, List<String> list) {
        var values = new ArrayList<Value>();
        for (var spelled : list) {
            switch (ValueReader.ofStored(form.conventions()).read(column.kind(), spelled)) {
                case Reading.Read(var value, var _) -> values.add(value);
                case Reading.Refused(var refusal) ->
                    reader.fault(
                            check.id(), "The list of the check on %s: %s".formatted(column.title(), refusal.words()));
            }
        }
        return List.copyOf(values);
    }

    /** Times may go over midnight; of anything else a range upside down would let nothing through. */
    private Limits limits(Check check, Column column, String from, String to) {
        var limits = new Limits(bound(check, column, from), bound(check, column, to));
        if (limits.backwards() && column.type() != ColumnType.TIME) {
            reader.fault(
                    check.id(),
                    "The range of %s goes from the larger to the smaller, so that nothing is in it. Turn it round."
                            .formatted(column.title()));
            return Limits.NONE;
        }
        return limits;
    }

    private Optional<Value> bound(Check check, Column column, String typed) {
        if (typed.isBlank()) {
            return Optional.empty();
        }
        // Bounds do not move with the day: what counts from today can't be read here.
        var reading = ValueReader.ofStored(form.conventions()).read(column.kind(), typed);
        if (reading instanceof Reading.Read(var value, var _) && column.type().hasRange()) {
            return Optional.of(value);
        }
        reader.fault(
                check.id(),
                "“%s” is no bound for %s, which holds %s."
                        .formatted(typed, column.title(), column.type().inWords()));
        return Optional.empty();
    }
}
