package weft.core.form;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import weft.core.find.Sort;
import weft.core.form.Form.Section;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

/** Makes a form from a table: a field per column, in the columns' order, grouped and sized so that it is usable as it comes. */
public final class FormMaking {

    /** Up to this many fields stand together without headings. */
    private static final int ONE_GROUP = 14;
    /** A section made without a common word holds this many fields at most. */
    private static final int LONGEST_SECTION = 10;
    /** So many neighbours must begin with the same word to be a section. */
    private static final int SHORTEST_RUN = 3;

    /** So many lines are blank in a new entry where nobody says. */
    private static final int USUAL_BLANK = 6;

    private static final Pattern UNIT = Pattern.compile("(.+?)\\s*[\\[(]([^\\])]{1,8})[\\])]$");

    private FormMaking() {}

    /** The form of that id for the table, with these conventions. */
    public static Form from(Table table, String id, Conventions conventions) {
        var groups =
                table.columns().size() <= ONE_GROUP ? List.of(new Group("", table.columns())) : groups(table.columns());
        var sections = groups.stream()
                .map(group -> new Section(
                        group.title(),
                        Section.USUAL_COLUMNS,
                        List.copyOf(Rows.filled(
                                group.columns().stream().map(FormMaking::field).toList()))))
                .toList();
        return new Form(
                id,
                table.title(),
                table.name(),
                conventions,
                Form.Enter.SAVES,
                Form.Leaving.SAVES,
                Sort.BY_ROW,
                Form.Style.REGULAR,
                List.of(),
                sections,
                Rules.NONE);
    }

    /**
     * Lines of another table for a form: as a form on that table has them, where there is one, with the rules that speak of a
     * single line; else a field per column.
     *
     * @param by the column of it that links to the form's table
     */
    public static FormLines lines(Table of, Column by, Optional<Form> like) {
        var fields = like.map(form -> form.fields()
                        .filter(field -> of.column(field.column()).isPresent() && !by.answersTo(field.column()))
                        .toList())
                .orElseGet(() -> of.columns().stream()
                        .filter(column -> !column.equals(by))
                        .map(FormMaking::field)
                        .toList());
        return new FormLines(
                of.name(),
                of.title(),
                of.name(),
                by.name(),
                fields,
                USUAL_BLANK,
                0,
                0,
                List.of(),
                by.required(),
                like.map(form -> ofLines(form.rules(), by)).orElse(Rules.NONE));
    }

    /** Numbers are given and steps taken with an entry of its own; what speaks of the link goes without saying. */
    private static Rules ofLines(Rules rules, Column by) {
        return new Rules(
                rules.checks().stream()
                        .filter(check -> check.rule().columns().stream().noneMatch(by::answersTo))
                        .toList(),
                rules.fills(),
                rules.formulas().stream()
                        .filter(each -> each.what() != Decides.DISPLAYED && !by.answersTo(each.target()))
                        .toList(),
                rules.choices().stream()
                        .filter(each -> !by.answersTo(each.column()))
                        .toList(),
                List.of(),
                List.of(),
                List.of());
    }

    private record Group(String title, List<Column> columns) {}

    /** The field that a column gets: its label, what one types into and its width follow from the column. */
    public static Field field(Column column) {
        var unit = UNIT.matcher(column.title());
        boolean number = column.type().isNumber();
        boolean hasUnit = number && unit.matches();
        return Field.plain(
                        column.name(),
                        hasUnit ? unit.group(1) : column.title(),
                        column.name(),
                        Field.Widget.of(column.type()),
                        width(column))
                .high(height(column.type()))
                .in(hasUnit ? unit.group(2) : "")
                .used(column.shownOnly().isPresent() ? Field.Use.LOCKED : Field.Use.OPEN)
                .helped(column.shownOnly().orElse(""))
                .required(column.required());
    }

    /** How many lines high its field is. */
    private static int height(ColumnType type) {
        return switch (type) {
            case LONGTEXT, PICTURE -> 3;
            case TEXT, WHOLE, DECIMAL, YESNO, DATE, TIME, DATETIME, CHOICE, LINK -> 1;
        };
    }

    /** A width, in tracks, in which the usual value and the label can be read. */
    private static int width(Column column) {
        int forValue = switch (column.type()) {
            case LONGTEXT -> Item.TRACKS;
            case WHOLE, DECIMAL, DATE, TIME, YESNO -> 3;
            case DATETIME, PICTURE -> 4;
            case CHOICE ->
                widthFor(
                        column.choices().stream().mapToInt(String::length).max().orElse(10) + 3);
            case TEXT, LINK -> widthFor(column.usualLength().orElse(20));
        };
        int forLabel = column.title().length() <= 19 ? 3 : column.title().length() <= 27 ? 4 : 6;
        return Math.max(forValue, forLabel);
    }

    private static int widthFor(int characters) {
        return characters <= 12 ? 3 : characters <= 20 ? 4 : characters <= 45 ? 6 : Item.TRACKS;
    }

    /** Neighbours whose titles begin with one word form a section of that name; what is left is cut into even parts. */
    private static List<Group> groups(List<Column> columns) {
        var groups = new ArrayList<Group>();
        var loose = new ArrayList<Column>();
        for (int at = 0; at < columns.size(); ) {
            int end = at + 1;
            while (end < columns.size() && firstWord(columns.get(end)).equals(firstWord(columns.get(at)))) {
                end++;
            }
            if (end - at >= SHORTEST_RUN) {
                groups.addAll(parts(loose));
                loose.clear();
                var run = columns.subList(at, end);
                // Many of one name tell nothing by it: Item 1 to Item 44.
                groups.addAll(
                        run.size() > LONGEST_SECTION
                                ? parts(run)
                                : List.of(new Group(columns.get(at).title().split(" ")[0], run)));
            } else {
                loose.addAll(columns.subList(at, end));
            }
            at = end;
        }
        groups.addAll(parts(loose));
        return groups;
    }

    private static String firstWord(Column column) {
        return column.title().split(" ")[0].toLowerCase(Locale.ROOT);
    }

    private static List<Group> parts(List<Column> columns) {
        int count = Math.ceilDiv(columns.size(), LONGEST_SECTION);
        var parts = new ArrayList<Group>();
        for (int part = 0; part < count; part++) {
            var within =
                    List.copyOf(columns.subList(columns.size() * part / count, columns.size() * (part + 1) / count));
            var title = within.size() == 1
                    ? within.getFirst().title()
                    : within.getFirst().title() + " to "
                            + lowered(within.getLast().title());
            parts.add(new Group(title, within));
        }
        return parts;
    }

    private static String lowered(String title) {
        boolean plain = title.length() > 1 && Character.isLowerCase(title.charAt(1));
        return plain ? title.substring(0, 1).toLowerCase(Locale.ROOT) + title.substring(1) : title;
    }
}
