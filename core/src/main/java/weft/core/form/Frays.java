package weft.core.form;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import weft.core.form.Field.Start;
import weft.core.form.Field.Use;
import weft.core.form.Field.Widget;
import weft.core.form.Fray.Mend;
import weft.core.rule.Command;
import weft.core.rule.Derived.Decides;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Reading;
import weft.core.value.ValueReader;

/** Finds the frays of a form on its table. */
public final class Frays {

    private final Form form;
    private final Table table;
    private final ValueReader reader;
    private final List<Fray> found = new ArrayList<>();

    private Frays(Form form, Table table, LocalDateTime now) {
        this.form = form;
        this.table = table;
        this.reader = new ValueReader(form.conventions(), now);
    }

    /** The frays of the form, those of the fields in tab order. */
    public static List<Fray> of(Form form, Table table, LocalDateTime now) {
        return new Frays(form, table, now).all();
    }

    private List<Fray> all() {
        var threaded = new HashMap<String, Field>();
        var labels = new HashMap<String, Field>();
        form.fields().forEach(field -> {
            var column = table.column(field.column());
            if (column.isEmpty()) {
                gone(field);
            } else {
                typed(field, column.get());
                twice(field, column.get(), threaded.putIfAbsent(column.get().name(), field));
                neverPasses(field, column.get());
                hidden(field, column.get());
                begins(field, column.get());
            }
            labelled(field, labels);
        });
        form.items().forEach(this::beside);
        table.columns().stream()
                .filter(column -> column.required() && !threaded.containsKey(column.name()))
                .forEach(this::needed);
        nothingOpen();
        firsts();
        keys();
        return List.copyOf(found);
    }

    private void gone(Field field) {
        found.add(Fray.biting(
                "gone",
                field,
                "%s is threaded to %s, a column that the table has no more. What is typed in it goes nowhere."
                        .formatted(called(field), field.column()),
                loose(field)
                        .map(column -> changed(
                                "Thread it to " + column.title(), field, each -> each.threadedTo(column.name())))
                        .orElseGet(() -> new Mend("Take it off the form", form -> form.without(field.id())))));
    }

    /** The column called like a field that has none. */
    private Optional<Column> loose(Field field) {
        return table.columns().stream()
                .filter(column -> column.title().equalsIgnoreCase(field.label()))
                .filter(column -> form.fieldOf(column.name()).isEmpty())
                .filter(column -> field.widget().takes(column.type()))
                .findFirst();
    }

    private void typed(Field field, Column column) {
        if (!field.widget().takes(column.type())) {
            var fits = Widget.of(column.type());
            found.add(Fray.biting(
                    "type",
                    field,
                    "%s takes %s, but %s holds %s."
                            .formatted(
                                    called(field),
                                    words(field.widget()),
                                    column.title(),
                                    column.type().inWords()),
                    changed("Make it take " + column.type().inWords(), field, each -> each.typedInto(fits))));
        }
    }

    private void twice(Field field, Column column, Field other) {
        if (other != null) {
            found.add(Fray.biting(
                    "twice",
                    field,
                    "%s and %s are both threaded to %s. Only one of them can be kept."
                            .formatted(called(other), called(field), column.title()),
                    new Mend("Take the second off the form", form -> form.without(field.id()))));
        }
    }

    private void neverPasses(Field field, Column column) {
        boolean wanted = field.required() || column.required();
        boolean fed = field.start().linked() || form.rules().feeds(column.name());
        if (wanted && !fed && !field.open() && field.start().value().isBlank()) {
            found.add(Fray.biting(
                    "never",
                    field,
                    "%s is needed, but nobody can type in it and it begins empty. No new entry could be saved."
                            .formatted(called(field)),
                    changed("Let people type in it", field, each -> each.used(Use.OPEN))));
        }
    }

    private void hidden(Field field, Column column) {
        boolean numbered = form.rules().numbers().stream().anyMatch(each -> column.answersTo(each.column()));
        form.rules()
                .formula(column.name(), Decides.SHOWN)
                .filter(_ -> column.required() && !numbered)
                .ifPresent(formula -> found.add(Fray.biting(
                        "hidden",
                        field,
                        "%s is needed in every record, but it is shown only if %s. While it is not, no entry could be saved."
                                .formatted(called(field), formula),
                        new Mend(
                                "Show it always",
                                form -> form.ruled(form.rules().without(column.name(), Decides.SHOWN))))));
    }

    private void begins(Field field, Column column) {
        if (reader.read(column.kind(), field.start().value()) instanceof Reading.Refused(var refusal)) {
            found.add(Fray.biting(
                    "begins",
                    field,
                    "%s begins with “%s”. %s"
                            .formatted(called(field), field.start().value(), refusal.words()),
                    changed(
                            "Let it begin empty",
                            field,
                            each -> each.begun(new Start(
                                    "",
                                    each.start().carried(),
                                    each.start().first(),
                                    each.start().linked())))));
        }
    }

    private void labelled(Field field, Map<String, Field> labels) {
        var label = field.label().strip().toLowerCase(Locale.ROOT);
        var title = table.column(field.column()).map(Column::title);
        if (label.isEmpty()) {
            found.add(Fray.light(
                    "label",
                    field,
                    "A field has no label. Nobody could tell what belongs in it.",
                    title.map(name -> changed("Call it " + name, field, each -> each.labelled(name)))));
        } else if (labels.putIfAbsent(label, field) != null) {
            found.add(Fray.light(
                    "alike",
                    field,
                    "Two fields are called %s. Nobody could tell them apart.".formatted(field.label()),
                    title.filter(name -> !labels.containsKey(name.toLowerCase(Locale.ROOT)))
                            .map(name -> changed("Call this one " + name, field, each -> each.labelled(name)))));
        }
        if (!label.isEmpty()
                && field.help()
                        .strip()
                        .toLowerCase(Locale.ROOT)
                        .replaceAll("[.:]$", "")
                        .equals(label)) {
            found.add(Fray.light(
                    "help",
                    field,
                    "The help line of %s says its label once more.".formatted(field.label()),
                    Optional.of(changed("Leave the help line out", field, each -> each.helped("")))));
        }
    }

    private void beside(Item item) {
        switch (item) {
            case Calculated shown
            when table.column(shown.column()).isEmpty()
                    && form.rules().formula(shown.id(), Decides.DISPLAYED).isEmpty() ->
                found.add(Fray.biting(
                        "gone",
                        shown,
                        shown.column().isEmpty()
                                ? "%s shows nothing: it has neither a column nor a formula.".formatted(shown.label())
                                : "%s shows %s, a column that the table has no more."
                                        .formatted(shown.label(), shown.column()),
                        new Mend("Take it off the form", form -> form.without(shown.id()))));
            case Picture picture
            when picture.image().isEmpty() ->
                found.add(Fray.light(
                        "picture",
                        picture,
                        "A picture has no file.",
                        Optional.of(new Mend("Take it off the form", form -> form.without(picture.id())))));
            case Button button
            when button.action() == Command.OPEN && button.opens().isEmpty() ->
                found.add(Fray.biting(
                        "opens",
                        button,
                        "The button %s is to open a form, but which one is not said.".formatted(button.label()),
                        new Mend("Take it off the form", form -> form.without(button.id()))));
            case Field _, Words _, Calculated _, Picture _, Button _, FormLines _ -> {}
        }
    }

    private void needed(Column column) {
        found.add(new Fray(
                "needed " + column.name(),
                Optional.empty(),
                "%s is needed in every record, but this form has no field for it. No new entry could be saved."
                        .formatted(column.title()),
                true,
                Optional.of(
                        new Mend("Make its field", form -> Placing.atEnd(form, List.of(FormMaking.field(column)))))));
    }

    private void nothingOpen() {
        if (form.fields().noneMatch(Field::open)) {
            found.add(new Fray(
                    "nothing",
                    Optional.empty(),
                    "Nothing can be typed anywhere: the form has no open field.",
                    true,
                    Optional.empty()));
        }
    }

    /** Tab follows the outline and the outline is the form's order, so only a beginning in the middle can jump about. */
    private void firsts() {
        var open = form.fields().filter(Field::open).toList();
        var firsts = open.stream().filter(field -> field.start().first()).toList();
        if (firsts.size() > 1) {
            found.add(Fray.light(
                    "firsts",
                    firsts.get(1),
                    "Typing is to begin in %s and in %s. Only one can be first."
                            .formatted(called(firsts.get(0)), called(firsts.get(1))),
                    Optional.of(unfirst(firsts.get(1)))));
        } else if (!firsts.isEmpty()
                && !firsts.getFirst().id().equals(open.getFirst().id())) {
            found.add(Fray.light(
                    "jumps",
                    firsts.getFirst(),
                    "Typing begins in %s, so Tab comes to %s, which stands before it, only at the end."
                            .formatted(called(firsts.getFirst()), called(open.getFirst())),
                    Optional.of(unfirst(firsts.getFirst()))));
        }
    }

    private Mend unfirst(Field field) {
        return changed(
                "Begin with the first field",
                field,
                each -> each.begun(new Start(
                        each.start().value(),
                        each.start().carried(),
                        false,
                        each.start().linked())));
    }

    private void keys() {
        var taken = new HashSet<Button.Key>();
        form.items()
                .filter(Button.class::isInstance)
                .map(Button.class::cast)
                .filter(button -> button.key() != Button.Key.NONE && !taken.add(button.key()))
                .forEach(button -> found.add(Fray.light(
                        "key",
                        button,
                        "Two buttons wait for %s. Only the first would hear it."
                                .formatted(button.key() == Button.Key.ENTER ? "Enter" : "Esc"),
                        Optional.empty())));
    }

    private static Mend changed(String label, Field field, UnaryOperator<Field> change) {
        return new Mend(
                label, form -> form.withFields(each -> each.id().equals(field.id()) ? change.apply(each) : each));
    }

    private static String called(Field field) {
        return field.label().isBlank() ? "A field without a label" : field.label();
    }

    private static String words(Widget widget) {
        return switch (widget) {
            case LINE -> "a line of text";
            case AREA -> "several lines of text";
            case NUMBER -> "numbers";
            case YESNO -> "yes or no";
            case DATE -> "dates";
            case TIME -> "times";
            case DATETIME -> "dates with times";
            case CHOICE -> "a choice from a list";
            case PICTURE -> "pictures";
            case LINK -> "a link to a record";
        };
    }
}
