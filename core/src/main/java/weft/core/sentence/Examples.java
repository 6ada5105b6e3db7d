package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Placed;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** Rules that could be typed for a form, made of its own fields: one of each kind for which it has fields of the types wanted. */
final class Examples {

    /** So many other tables are looked at for what could be brought in. */
    private static final int MOST_TABLES = 30;

    private final Terms terms;
    private final List<Column> columns;

    /** Examples in those terms. */
    Examples(Terms terms) {
        this.terms = terms;
        this.columns = terms.fields().stream()
                .flatMap(field -> terms.table().column(field.name()).stream())
                .filter(column -> column.shownOnly().isEmpty())
                .toList();
    }

    /** The rules, the most usual first. */
    List<Declaration> all() {
        return Stream.of(
                        range(),
                        needs(),
                        later(),
                        today(),
                        neededIf(),
                        shownIf(),
                        brings(),
                        chosen(),
                        workedOut(),
                        anyOf(),
                        length(),
                        alike(),
                        nearlyAlike(),
                        usual(),
                        complete(),
                        asBefore(),
                        says())
                .flatMap(Optional::stream)
                .toList();
    }

    private Stream<Column> of(ColumnType... types) {
        return columns.stream().filter(column -> List.of(types).contains(column.type()));
    }

    private Optional<Column> nth(int n, Predicate<Column> which) {
        return columns.stream().filter(which).skip(n).findFirst();
    }

    private static boolean numeric(Column column) {
        return column.type() == ColumnType.WHOLE || column.type() == ColumnType.DECIMAL;
    }

    private static Declaration asking(Check.Rule rule) {
        return new Check("", rule, true, false, "");
    }

    private Optional<Declaration> range() {
        return nth(0, Examples::numeric).map(number -> asking(new Check.Range(number.name(), "1", "100")));
    }

    private Optional<Declaration> needs() {
        return pair(_ -> true).map(two -> new Check("", new Check.Needs(two.other(), two.one()), false, false, ""));
    }

    private record Pair(String one, String other) {}

    private Optional<Pair> pair(Predicate<Column> which) {
        return nth(1, which)
                .map(second -> new Pair(nth(0, which).map(Column::name).orElseThrow(), second.name()));
    }

    /** The second of two dates is not before the first. */
    private Optional<Declaration> later() {
        return Stream.of(ColumnType.DATE, ColumnType.DATETIME, ColumnType.TIME)
                .flatMap(type -> pair(column -> column.type() == type).stream())
                .findFirst()
                .map(two -> new Check(
                        "", new Check.Holds(two.other() + " >= " + two.one(), two.other()), false, false, ""));
    }

    private Optional<Declaration> today() {
        return of(ColumnType.DATE).findFirst().map(date -> new Derived(date.name(), Decides.DEFAULT, "today()"));
    }

    private Optional<Declaration> neededIf() {
        return of(ColumnType.CHOICE)
                .filter(choice -> choice.choices().stream().anyMatch(word -> !word.contains("\"")))
                .findFirst()
                .flatMap(choice -> other(choice)
                        .map(needed -> new Derived(
                                needed.name(),
                                Decides.REQUIRED,
                                "%s = \"%s\""
                                        .formatted(
                                                choice.name(), choice.choices().getFirst()))));
    }

    private Optional<Declaration> shownIf() {
        return of(ColumnType.YESNO)
                .findFirst()
                .flatMap(yes -> other(yes).map(shown -> new Derived(shown.name(), Decides.SHOWN, yes.name())));
    }

    /** A field that may well be empty, other than that one: the last that is not required. */
    private Optional<Column> other(Column than) {
        return columns.reversed().stream()
                .filter(column -> !column.required() && !column.equals(than))
                .findFirst();
    }

    private Optional<Declaration> workedOut() {
        var numbers = columns.stream().filter(Examples::numeric).toList();
        return numbers.size() < 3
                ? Optional.empty()
                : Optional.of(new Derived(
                        numbers.getLast().name(),
                        Decides.CALCULATED,
                        numbers.get(0).name() + " + " + numbers.get(1).name()));
    }

    private Optional<Declaration> anyOf() {
        return pair(column -> !column.required() && column.type() != ColumnType.YESNO)
                .map(two -> new Check("", new Check.AnyOf(List.of(two.one(), two.other())), false, false, ""));
    }

    private Optional<Declaration> length() {
        return of(ColumnType.TEXT).findFirst().map(text -> asking(new Check.Length(text.name(), 2, 20)));
    }

    private Optional<Declaration> alike() {
        return pair(column -> column.type() != ColumnType.PICTURE && column.type() != ColumnType.LONGTEXT)
                .map(two -> new Between(new Constraint.Unique("", List.of(two.one(), two.other()), "")));
    }

    private Optional<Declaration> nearlyAlike() {
        return of(ColumnType.TEXT).findFirst().map(text -> asking(new Check.Alike(List.of(text.name()), false, false)));
    }

    private Optional<Declaration> usual() {
        return nth(0, Examples::numeric)
                .flatMap(number -> of(ColumnType.CHOICE, ColumnType.LINK)
                        .findFirst()
                        .map(of -> asking(new Check.Usual(
                                number.name(), List.of(new Check.For(of.name(), Check.For.Of.VALUE)), false))));
    }

    private Optional<Declaration> complete() {
        return columns.isEmpty() ? Optional.empty() : Optional.of(asking(new Check.Complete(List.of())));
    }

    private Optional<Declaration> asBefore() {
        return nth(0, column -> column.type() == ColumnType.TEXT || column.type() == ColumnType.CHOICE)
                .map(column -> new Derived(column.name(), Decides.DEFAULT, "last." + column.name()));
    }

    private Optional<Declaration> says() {
        return Optional.of(new Placed(Step.Steps.SAVED, new Step("", new Step.Say("Saved in row {row}."))));
    }

    /** What a link, or a field that goes with a column of another table, brings in. */
    private Optional<Declaration> brings() {
        return others().flatMap(other -> columns.stream()
                        .flatMap(key -> terms
                                .goesWith(key.name(), other)
                                .filter(source -> fits(key, other, source))
                                .flatMap(source -> bringing(key, source, other))
                                .stream()))
                .findFirst();
    }

    private Optional<Declaration> bringing(Column key, String source, Table other) {
        var ties = new ArrayList<Fill.Tie>();
        for (var column : columns) {
            terms.goesWith(column.name(), other)
                    .filter(from -> !column.equals(key) && !from.equals(source) && fits(column, other, from))
                    .ifPresent(from -> ties.add(new Fill.Tie(column.name(), from)));
        }
        return ties.isEmpty()
                ? Optional.empty()
                : Optional.of(new Fill(
                        "",
                        other.name(),
                        List.of(new Fill.Tie(key.name(), source)),
                        ties,
                        Fill.None.STOP,
                        Fill.Several.CHOOSE,
                        false));
    }

    private Optional<Declaration> chosen() {
        return others().flatMap(other -> of(ColumnType.TEXT)
                        .flatMap(column -> terms
                                .goesWith(column.name(), other)
                                .filter(source -> fits(column, other, source))
                                .<Declaration>map(
                                        source -> new Choices(column.name(), other.name(), source, "", List.of(), true))
                                .stream()))
                .findFirst();
    }

    private static boolean fits(Column column, Table other, String source) {
        return other.column(source)
                .filter(from -> from.type() == column.type() && column.type() != ColumnType.LINK)
                .isPresent();
    }

    private Stream<Table> others() {
        return terms.tables().get().stream()
                .filter(name -> !name.equals(terms.table().name()))
                .limit(MOST_TABLES)
                .flatMap(name -> terms.others().apply(name).stream());
    }
}
