package weft.store.form;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.form.Placing;
import weft.core.form.QuickLine;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.table.Names;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.store.form.Forms.Document;
import weft.store.form.Forms.StaleForm;
import weft.store.table.Columns;
import weft.store.table.Retried;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Makes fields of typed lines, with the columns and tables that are not there yet: all of it or nothing. */
public final class Lines {

    private static final String NEW = "New form";

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Lines(DSLContext sql) {
        this.sql = sql;
    }

    /** A line that is not understood, with the sentence that says why. Nothing was made. */
    public static final class UnclearLine extends RuntimeException {
        UnclearLine(String sentence) {
            super(sentence);
        }
    }

    /** What a line would make, or why it is not understood. */
    public QuickLine.Answer read(String line, ReadyForm form) {
        return QuickLine.read(
                line, form.table().definition(), linkable(sql), form.form().conventions());
    }

    /** The tables that a line can link to, by name or title. */
    private static Function<String, Optional<Table>> linkable(DSLContext sql) {
        var tables = new Tables(sql);
        return called -> tables.find(called)
                .or(() -> tables.list().stream()
                        .filter(each -> each.title().equalsIgnoreCase(called)
                                || each.name().equalsIgnoreCase(called))
                        .findFirst()
                        .flatMap(each -> tables.find(each.name())))
                .map(StoredTable::definition);
    }

    /**
     * Makes fields of lines in the working copy of a form, each after the one before.
     *
     * @param after the id of the item that the first stands after; empty for the end
     * @throws UnclearLine when one of them is not understood
     * @throws StaleForm when that revision is not the latest
     */
    public Document add(ReadyForm form, int revision, List<String> lines, Optional<String> after, String by) {
        if (revision != form.document().revision()) {
            throw new StaleForm();
        }
        return Retried.result(sql, inner -> {
            var before = form.table();
            // Records that are there already have nothing in a new column, so that only the form can want it filled.
            boolean empty = new Tables(inner.dsl()).rows(before) == 0;
            var made = made(lines, form.form(), before.definition(), linkable(inner.dsl()), empty);
            var columns = made.table().columns();
            Columns.add(
                    inner.dsl(),
                    before.definition().name(),
                    columns.subList(before.definition().columns().size(), columns.size()));
            var placed = checking(placed(form.form(), after, made.fields()), made.checks());
            return Forms.change(inner.dsl(), revision, FormDocument.checked(placed), by);
        });
    }

    /**
     * What would be made of lines.
     *
     * @param read what each line asks for, or why it can't be read; such a line is left out of the rest
     */
    public record Sketch(List<QuickLine.Answer> read, Table table, Form form) {}

    /** What a form from nothing would be. Nothing is made. */
    public Sketch sketch(String title, List<String> lines) {
        return sketch(sql, title, lines);
    }

    /**
     * Makes a form, and a table for it, of its first lines. It is not published yet.
     *
     * @param title what both are called; empty for a name that is free
     * @throws UnclearLine when one of them is not understood
     */
    public Document begin(String title, List<String> lines) {
        return Retried.result(sql, inner -> {
            var sketch = sketch(inner.dsl(), title, lines);
            for (int i = 0; i < lines.size(); i++) {
                if (sketch.read().get(i) instanceof QuickLine.Unclear(var sentence)) {
                    throw unclear(lines, lines.get(i), sentence);
                }
            }
            StoredTable table = new Tables(inner.dsl()).make(inner.dsl(), sketch.table());
            return Forms.bring(inner.dsl(), table, sketch.form());
        });
    }

    /** Fields stand in sections as those of any table do, and are what their lines say. */
    private static Sketch sketch(DSLContext within, String title, List<String> lines) {
        var taken = new Tables(within)
                .list().stream().map(Tables.Listed::name).collect(Collectors.toCollection(HashSet::new));
        var name = Names.name(title.isEmpty() ? NEW : title, 1, taken);
        var bare =
                new Table(name, title.isEmpty() ? Names.title(name, 1) : title, List.of(), Table.Placement.AFTER_LAST);
        var read = new ArrayList<QuickLine.Answer>();
        var made = new ArrayList<QuickLine.QuickField>();
        var table = bare;
        for (var line : lines) {
            var answer = QuickLine.read(line, table, linkable(within), Conventions.DEFAULT);
            read.add(answer);
            if (answer instanceof QuickLine.QuickField asked && asked.made()) {
                made.add(asked);
                table = with(table, asked.column());
            }
        }
        var fields =
                made.stream().collect(Collectors.toMap(asked -> asked.column().name(), QuickLine.QuickField::field));
        var form = FormMaking.from(table, name, Conventions.DEFAULT)
                .withFields(field -> Optional.ofNullable(fields.get(field.column()))
                        .orElseThrow()
                        .named(field.id()));
        var checks = made.stream().flatMap(asked -> asked.checks().stream()).toList();
        return new Sketch(read, table, checking(form, checks));
    }

    private static Table with(Table table, Column column) {
        var all = new ArrayList<>(table.columns());
        all.add(column);
        return table.with(all);
    }

    private static Form checking(Form form, List<Check.Rule> checks) {
        var ruled = form;
        for (var check : checks) {
            ruled = ruled.ruled(ruled.rules().checking(check));
        }
        return ruled;
    }

    private static UnclearLine unclear(List<String> lines, String line, String sentence) {
        return new UnclearLine(lines.size() == 1 ? sentence : "“%s”: %s".formatted(line.strip(), sentence));
    }

    /** The form with those fields after that item, or at its end. */
    public static Form placed(Form form, Optional<String> after, List<Field> fields) {
        return after.map(item -> Placing.after(form, item, fields)).orElseGet(() -> Placing.atEnd(form, fields));
    }

    private record MadeFields(Table table, List<Field> fields, List<Check.Rule> checks) {}

    private static MadeFields made(
            List<String> lines, Form form, Table before, Function<String, Optional<Table>> linkable, boolean empty) {
        var fields = new ArrayList<Field>();
        var checks = new ArrayList<Check.Rule>();
        var table = before;
        for (var line : lines) {
            switch (QuickLine.read(line, table, linkable, form.conventions())) {
                case QuickLine.Unclear(var sentence) -> throw unclear(lines, line, sentence);
                case QuickLine.QuickField(var field, var column, var made, var checked, var _) -> {
                    checks.addAll(checked);
                    if (made) {
                        table = with(table, column.required(column.required() && empty));
                    }
                    fields.add(field);
                }
            }
        }
        return new MadeFields(table, fields, checks);
    }
}
