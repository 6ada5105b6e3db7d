package weft.core.form;

import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import weft.core.rule.Check;
import weft.core.rule.Practice;
import weft.core.rule.Rules;
import weft.core.table.Table;
import weft.core.value.Respelling;

/**
 * A form whose people write dates or numbers another way from now on. What it spells as they do, of its own fields and of those of
 * its lines, and that was not changed with it, is spelled their new way, so that it goes on to mean the same.
 */
public final class RespelledForm {

    private final Function<String, Optional<Table>> tables;
    private final Respelling checked;
    private final Respelling typed;

    private RespelledForm(Form before, Form after, Function<String, Optional<Table>> tables, LocalDateTime now) {
        this.tables = tables;
        this.checked = new Respelling(before.conventions(), after.conventions(), Optional.empty());
        this.typed = new Respelling(before.conventions(), after.conventions(), Optional.of(now));
    }

    /** The form as it goes on from the one before; the same where both are written one way. */
    public static Form of(Form before, Form after, Function<String, Optional<Table>> tables, LocalDateTime now) {
        return before.conventions().equals(after.conventions())
                ? after
                : new RespelledForm(before, after, tables, now).form(before, after);
    }

    private Form form(Form before, Form after) {
        var stood = before.fields().toList();
        return after.withSections(section -> section.with(section.items().stream()
                        .map(item -> switch (item) {
                            case Field field -> field(after.table(), stood, field);
                            case FormLines lines -> lines(before, lines);
                            case Calculated _, Words _, Picture _, Button _ -> item;
                        })
                        .toList()))
                .ruled(rules(after.table(), before.rules(), after.rules()));
    }

    private Item lines(Form before, FormLines lines) {
        if (!(before.item(lines.id()).orElse(null) instanceof FormLines stood)) {
            return lines;
        }
        var fields = lines.fields().stream()
                .map(field -> field(lines.table(), stood.fields(), field))
                .toList();
        return lines.with(fields).ruled(rules(lines.table(), stood.rules(), lines.rules()));
    }

    private Rules rules(String table, Rules before, Rules after) {
        return after.with(
                after.checks().stream()
                        .map(check -> same(before.checks(), Check::id, check)
                                .map(stood -> check(table, stood.rule(), check))
                                .orElse(check))
                        .toList(),
                after.practice().stream()
                        .map(practice -> same(before.practice(), Practice::id, practice)
                                .map(stood -> practice(table, stood, practice))
                                .orElse(practice))
                        .toList());
    }

    private static <T> Optional<T> same(List<T> all, Function<T, String> id, T one) {
        return all.stream().filter(each -> id.apply(each).equals(id.apply(one))).findFirst();
    }

    /** A text as it is spelled from now on, where it is what stood there before. */
    private String spelled(Respelling by, String table, String column, String stood, String text) {
        return text.equals(stood)
                ? tables.apply(table)
                        .flatMap(of -> of.column(column))
                        .map(of -> by.of(of.kind(), text))
                        .orElse(text)
                : text;
    }

    private Field field(String table, List<Field> before, Field field) {
        var start = field.start();
        return same(before, Field::id, field)
                .map(stood -> field.begun(new Field.Start(
                        spelled(typed, table, field.column(), stood.start().value(), start.value()),
                        start.carried(),
                        start.first(),
                        start.linked())))
                .orElse(field);
    }

    private Check check(String table, Check.Rule stood, Check check) {
        return switch (check.rule()) {
            case Check.Range(var column, var from, var to)
            when stood instanceof Check.Range(var _, var least, var most) ->
                check.with(new Check.Range(
                        column,
                        spelled(checked, table, column, least, from),
                        spelled(checked, table, column, most, to)));
            case Check.OneOf(var column, var list)
            when stood instanceof Check.OneOf(var _, var before) ->
                check.with(new Check.OneOf(
                        column,
                        list.stream()
                                .map(each -> before.contains(each) ? spelled(checked, table, column, each, each) : each)
                                .toList()));
            default -> check;
        };
    }

    private Practice practice(String table, Practice stood, Practice practice) {
        return practice.typing(practice.typed().entrySet().stream()
                .collect(Collectors.toMap(
                        each -> each.getKey(),
                        each -> spelled(
                                typed,
                                table,
                                each.getKey(),
                                stood.typed().getOrDefault(each.getKey(), ""),
                                each.getValue()))));
    }
}
