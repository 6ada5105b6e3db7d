package weft.core.form;

import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import weft.core.rule.Check;
import weft.core.rule.Practice;
import weft.core.table.Table;
import weft.core.value.Respelling;

/**
 * A form whose people write dates or numbers another way from now on. What it spells as they do, and that was not changed with
 * it, is spelled their new way, so that it goes on to mean the same.
 */
public final class RespelledForm {

    private final Form before;
    private final Table table;
    private final Respelling checked;
    private final Respelling typed;

    private RespelledForm(Form before, Form after, Table table, LocalDateTime now) {
        this.before = before;
        this.table = table;
        this.checked = new Respelling(before.conventions(), after.conventions(), Optional.empty());
        this.typed = new Respelling(before.conventions(), after.conventions(), Optional.of(now));
    }

    /** The form as it goes on from the one before; the same where both are written one way. */
    public static Form of(Form before, Form after, Table table, LocalDateTime now) {
        if (before.conventions().equals(after.conventions())) {
            return after;
        }
        var respelled = new RespelledForm(before, after, table, now);
        var rules = after.rules();
        return after.withFields(respelled::field)
                .ruled(rules.with(
                        rules.checks().stream().map(respelled::check).toList(),
                        rules.practice().stream().map(respelled::practice).toList()));
    }

    private String spelled(Respelling by, String column, String text) {
        return table.column(column).map(each -> by.of(each.kind(), text)).orElse(text);
    }

    private static <T> Optional<T> same(List<T> all, Function<T, String> id, T one) {
        return all.stream().filter(each -> id.apply(each).equals(id.apply(one))).findFirst();
    }

    private Field field(Field field) {
        var start = field.start();
        boolean stood = before.fields()
                .anyMatch(each ->
                        each.id().equals(field.id()) && each.start().value().equals(start.value()));
        return stood
                ? field.begun(new Field.Start(
                        spelled(typed, field.column(), start.value()), start.carried(), start.first(), start.linked()))
                : field;
    }

    private Check check(Check check) {
        var was = same(before.rules().checks(), Check::id, check).map(Check::rule);
        return switch (check.rule()) {
            case Check.Range(var column, var from, var to)
            when was.filter(rule -> rule instanceof Check.Range).isPresent() -> {
                var stood = (Check.Range) was.get();
                yield check.with(new Check.Range(
                        column,
                        from.equals(stood.from()) ? spelled(checked, column, from) : from,
                        to.equals(stood.to()) ? spelled(checked, column, to) : to));
            }
            case Check.OneOf(var column, var list)
            when was.filter(rule -> rule instanceof Check.OneOf).isPresent() -> {
                var stood = ((Check.OneOf) was.get()).list();
                yield check.with(new Check.OneOf(
                        column,
                        list.stream()
                                .map(each -> stood.contains(each) ? spelled(checked, column, each) : each)
                                .toList()));
            }
            default -> check;
        };
    }

    private Practice practice(Practice practice) {
        var was = same(before.rules().practice(), Practice::id, practice);
        return was.isEmpty()
                ? practice
                : practice.typing(practice.typed().entrySet().stream()
                        .collect(Collectors.toMap(
                                each -> each.getKey(),
                                each -> each.getValue().equals(was.get().typed().get(each.getKey()))
                                        ? spelled(typed, each.getKey(), each.getValue())
                                        : each.getValue())));
    }
}
