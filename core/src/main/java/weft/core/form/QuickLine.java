package weft.core.form;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.form.Field.Start;
import weft.core.form.Field.Use;
import weft.core.rule.Check;
import weft.core.sentence.Shapes;
import weft.core.table.Column;
import weft.core.table.Limits;
import weft.core.table.Link;
import weft.core.table.Names;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/**
 * Reads a line that describes a field, such as {@code Quantity, whole 1 to 30, required} or {@code Bank, left or right}: its
 * label, then, after commas, what kind of values it takes, their limits, and what else is to hold of it.
 */
public final class QuickLine {

    private static final Pattern QUOTED = Pattern.compile("^\"([^\"]+)\"\\s*(?:,|$)");
    private static final Pattern DECIMALS =
            Pattern.compile("(?:with )?(\\d{1,9}|no|one|two|three|four) (?:decimal places?|decimals?|places?)");
    private static final Pattern SPAN = Pattern.compile("(?i)(?:from |between )?(\\S.*?) (?:to|and) (\\S.*)");
    private static final Pattern DASHED = Pattern.compile("(-?\\d+(?:[.,]\\d+)?) ?[-–] ?(-?\\d+(?:[.,]\\d+)?)");
    private static final Pattern LEAST =
            Pattern.compile("(?:at least|from|not below|min(?:imum)?|no less than|>=) ?(\\S.*)");
    private static final Pattern MOST =
            Pattern.compile("(?:at most|up to|to|not above|max(?:imum)?|no more than|<=) ?(\\S.*)");
    private static final Pattern ONE_OF = Pattern.compile("(?i)(?:one|any) of (.+)");
    private static final Pattern COUNTED_IN = Pattern.compile("in (\\S{1,20})");
    private static final Pattern WIDTH = Pattern.compile("(\\d{1,9}) wide");
    private static final Pattern BEGINS = Pattern.compile("(?:begins|starts) with (.+)");
    private static final Pattern LINK = Pattern.compile("(?i)links? to (.+)");
    private static final Pattern SHOWING = Pattern.compile("(?i)(?:showing|by) (.+)");
    private static final Pattern HELP = Pattern.compile("(?is)help (.+)");
    private static final Pattern NUMBER = Pattern.compile("-?\\d+(?:[.,]\\d+)?");
    private static final List<String> NUMBERS = List.of("no", "one", "two", "three", "four");
    private static final int MOST_DECIMALS = 15;

    private final Table table;
    private final Function<String, Optional<Table>> tables;
    private final ValueReader reader;
    private final boolean decimalComma;
    private Optional<ColumnType> type = Optional.empty();
    private OptionalInt scale = OptionalInt.empty();
    private Optional<String> least = Optional.empty();
    private Optional<String> most = Optional.empty();
    private List<String> choices = List.of();
    private Optional<String> unit = Optional.empty();
    private Optional<String> help = Optional.empty();
    private OptionalInt width = OptionalInt.empty();
    private Start start = Start.EMPTY;
    private Use use = Use.OPEN;
    private Optional<Table> target = Optional.empty();
    private List<String> shown = List.of();
    private Optional<String> shape = Optional.empty();
    private boolean listing;
    private boolean required;
    private boolean unique;

    private QuickLine(Table table, Function<String, Optional<Table>> tables, Conventions conventions) {
        this.table = table;
        this.tables = tables;
        this.reader = ValueReader.ofStored(conventions);
        this.decimalComma = conventions.decimalSign() == DecimalSign.COMMA;
    }

    /** What a line asks for, or why it cannot be read. */
    public sealed interface Answer {}

    /**
     * What a line asks for.
     *
     * @param field the field, threaded to the column
     * @param column the column
     * @param made whether the column is to be made; otherwise it is there
     * @param checks what the form is to check of it, since its column does not
     * @param words what will be made, in words
     */
    public record QuickField(Field field, Column column, boolean made, List<Check.Rule> checks, String words)
            implements Answer {}

    /** The line cannot be read; the sentence says what would be right. */
    public record Unclear(String sentence) implements Answer {}

    /** A part of the line that is not understood. */
    private static final class NotUnderstood extends RuntimeException {
        private final String sentence;

        NotUnderstood(String sentence) {
            super(sentence, null, false, false);
            this.sentence = sentence;
        }
    }

    /**
     * Reads the line for a form on that table.
     *
     * @param tables the tables that it can link to, by name or title
     */
    public static Answer read(
            String line, Table table, Function<String, Optional<Table>> tables, Conventions conventions) {
        try {
            return new QuickLine(table, tables, conventions).read(line.strip());
        } catch (NotUnderstood e) {
            return new Unclear(e.sentence);
        }
    }

    private Answer read(String line) {
        var quoted = QUOTED.matcher(line);
        String label;
        String rest;
        if (quoted.find()) {
            label = quoted.group(1);
            rest = line.substring(quoted.end());
        } else {
            int end = line.indexOf(',');
            label = end < 0 ? line : line.substring(0, end);
            rest = end < 0 ? "" : line.substring(end + 1);
        }
        label = label.strip();
        if (label.isEmpty() || label.length() > Names.LONGEST_TITLE) {
            throw new NotUnderstood("Begin with the label, such as: Quantity, whole 1 to 30, required");
        }
        for (var part : LineParts.of(rest, decimalComma)) {
            if (!part.isBlank()) {
                take(part.strip());
            }
        }
        return answer(label);
    }

    private void take(String part) {
        var said = part.toLowerCase(Locale.ROOT).replaceAll("\\s+", " ");
        switch (said) {
            case "required", "needed", "must", "mandatory", "compulsory", "not empty" -> required = true;
            case "unique", "no two alike" -> unique = true;
            case "locked" -> use = Use.LOCKED;
            case "read-only", "read only" -> use = Use.READ_ONLY;
            case "hidden" -> use = Use.HIDDEN;
            case "kept", "carried over" -> start = new Start(start.value(), true, start.first(), start.linked());
            case "first" -> start = new Start(start.value(), start.carried(), true, start.linked());
            default -> takeLonger(part, said);
        }
    }

    private void takeLonger(String part, String said) {
        var begins = BEGINS.matcher(part);
        var helps = HELP.matcher(part);
        var wide = WIDTH.matcher(said);
        var in = COUNTED_IN.matcher(part);
        var links = LINK.matcher(part);
        var showing = SHOWING.matcher(part);
        if (begins.matches()) {
            start = new Start(begins.group(1), start.carried(), start.first(), start.linked());
        } else if (helps.matches()) {
            help = Optional.of(helps.group(1));
        } else if (wide.matches()) {
            width = OptionalInt.of(Math.clamp(Long.parseLong(wide.group(1)), 1, Item.TRACKS));
        } else if (links.matches()) {
            type = Optional.of(ColumnType.LINK);
            target = Optional.of(tables.apply(links.group(1))
                    .orElseThrow(() -> new NotUnderstood(
                            "There is no table “%s” to link to. Name one that there is, such as: Sample, link to samples"
                                    .formatted(links.group(1)))));
        } else if (showing.matches()) {
            shown = List.of(showing.group(1).split("\\s+(?i:and)\\s+"));
        } else if (in.matches()) {
            unit = Optional.of(in.group(1));
        } else if (listing) {
            list(part);
        } else if (ONE_OF.matcher(part).matches()) {
            listing = true;
            type = Optional.of(ColumnType.CHOICE);
            list(ONE_OF.matcher(part).replaceFirst("$1"));
        } else {
            takeKind(part, said);
        }
    }

    /** More of a list that goes on after commas. */
    private void list(String part) {
        choices = Stream.concat(choices.stream(), Stream.of(part.split("\\s+(?i:or|and)\\s+")))
                .map(String::strip)
                .filter(choice -> !choice.isEmpty())
                .distinct()
                .toList();
    }

    /** The kind of values, limits after it or alone, or a list of choices. */
    private void takeKind(String part, String said) {
        for (var word : KindWord.ALL) {
            if (said.equals(word.name()) || said.startsWith(word.name() + " ")) {
                type = Optional.of(word.type());
                word.scale().ifPresent(places -> scale = OptionalInt.of(places));
                shape = word.shape().or(() -> shape);
                var rest = part.substring(word.name().length()).strip();
                if (!rest.isEmpty()) {
                    takeLimits(rest);
                }
                return;
            }
        }
        takeLimits(part);
    }

    private void takeLimits(String part) {
        var said = part.toLowerCase(Locale.ROOT);
        var decimals = DECIMALS.matcher(said);
        var span = SPAN.matcher(part);
        var dashed = DASHED.matcher(part);
        var atLeast = LEAST.matcher(said);
        var atMost = MOST.matcher(said);
        if (decimals.lookingAt()) {
            takeDecimals(part, decimals.group(1), part.substring(decimals.end()).strip());
        } else if (said.matches(".+ or .+")) {
            list(part);
            type = Optional.of(ColumnType.CHOICE);
        } else if (dashed.matches()) {
            least = Optional.of(dashed.group(1));
            most = Optional.of(dashed.group(2));
        } else if (atLeast.matches() && !span.matches()) {
            least = Optional.of(part.substring(atLeast.start(1)));
        } else if (atMost.matches()) {
            most = Optional.of(part.substring(atMost.start(1)));
        } else if (span.matches()) {
            least = Optional.of(span.group(1).replaceFirst("(?i)^(from|between) ", ""));
            most = Optional.of(span.group(2));
        } else {
            throw new NotUnderstood(
                    "“%s” is not understood. These would do: Quantity, whole 1 to 30, required or Bank, left or right."
                            .formatted(part));
        }
    }

    private void takeDecimals(String part, String many, String rest) {
        int places = NUMBERS.contains(many) ? NUMBERS.indexOf(many) : Integer.parseInt(many);
        if (places > MOST_DECIMALS) {
            throw new NotUnderstood("“%s” is too many: a number has %d decimals at most. Write: Depth, 2 decimals"
                    .formatted(part, MOST_DECIMALS));
        }
        scale = OptionalInt.of(places);
        type = Optional.of(ColumnType.DECIMAL);
        if (!rest.isEmpty()) {
            takeLimits(rest);
        }
    }

    private Answer answer(String label) {
        var name = Names.name(label, 1, new HashSet<>());
        var there = table.columns().stream()
                .filter(column -> column.answersTo(name) || column.title().equalsIgnoreCase(label))
                .findFirst();
        if (there.isPresent()) {
            return answer(label, there.get());
        }
        var made = column(label);
        var column = Column.plain(freeName(made.title()), made.title(), made.type())
                .required(required)
                .unique(unique)
                .scaled(made.scale())
                .of(made.choices())
                .within(made.min(), made.max())
                .leading(made.link());
        var checks = shape.<Check.Rule>map(each -> new Check.Matches(column.name(), Shapes.pattern(each))).stream()
                .toList();
        return new QuickField(field(label, column), column, true, checks, words(column, true) + checked(checks));
    }

    /** A field on a column that is there: what is said of its values, the form checks; what they are, the column says. */
    private Answer answer(String label, Column there) {
        var asked = type.orElse(there.type());
        boolean narrower = there.type() == ColumnType.TEXT && (asked == ColumnType.CHOICE || asked.isText());
        if ((asked != there.type() && !narrower) || (scale.isPresent() && !scale.equals(there.scale()))) {
            throw new NotUnderstood(
                    "%s is there already and holds %s. Leave that out, or change the column by the pencil at its head."
                            .formatted(there.title(), words(there)));
        }
        if (unique && !there.unique()) {
            throw new NotUnderstood(
                    "%s is there already, and two records may be alike in it. Leave that out, or change the column by the pencil at its head."
                            .formatted(there.title()));
        }
        if (!there.type().hasRange() && (least.isPresent() || most.isPresent())) {
            throw limitsOfNothing(there.type());
        }
        var min = bound(there.type(), least);
        var max = bound(there.type(), most);
        var checks = new ArrayList<Check.Rule>();
        shape.ifPresent(each -> checks.add(new Check.Matches(there.name(), Shapes.pattern(each))));
        if (!choices.isEmpty() && !choices.equals(there.choices())) {
            checks.add(new Check.OneOf(there.name(), choices));
        }
        if ((min.isPresent() || max.isPresent()) && !(min.equals(there.min()) && max.equals(there.max()))) {
            sound(min, max);
            checks.add(new Check.Range(there.name(), least.orElse(""), most.orElse("")));
        }
        return new QuickField(field(label, there), there, false, checks, words(there, false) + checked(checks));
    }

    private static NotUnderstood limitsOfNothing(ColumnType kind) {
        return new NotUnderstood("Limits are for numbers, dates and times only; this takes " + kind.inWords() + ".");
    }

    private static void sound(Optional<Value> min, Optional<Value> max) {
        if (new Limits(min, max).backwards()) {
            throw new NotUnderstood("Nothing lies between %s and %s. Write the smaller one first: %s to %s"
                    .formatted(
                            min.orElseThrow().spoken(),
                            max.orElseThrow().spoken(),
                            max.orElseThrow().spoken(),
                            min.orElseThrow().spoken()));
        }
    }

    private static String checked(List<Check.Rule> checks) {
        return checks.stream()
                .map(check -> switch (check) {
                    case Check.Range(var _, var from, var to) when from.isEmpty() -> ", checked to be at most " + to;
                    case Check.Range(var _, var from, var to) when to.isEmpty() -> ", checked to be at least " + from;
                    case Check.Range(var _, var from, var to) -> ", checked to be " + from + " to " + to;
                    case Check.OneOf(var _, var list) -> ", checked to be " + String.join(" or ", list);
                    case Check.Matches(var _, var pattern) ->
                        ", checked to look like " + Shapes.like(pattern).orElse(pattern);
                    default -> throw new IllegalStateException(check.toString());
                })
                .collect(Collectors.joining());
    }

    private String freeName(String title) {
        var taken = table.columns().stream()
                .flatMap(column -> Stream.concat(Stream.of(column.name()), column.former().stream()))
                .collect(Collectors.toCollection(HashSet::new));
        return Names.name(title, table.columns().size() + 1, taken);
    }

    private Column column(String label) {
        var kind = type.orElseGet(this::guessed);
        if (kind == ColumnType.CHOICE && choices.isEmpty()) {
            throw new NotUnderstood("A choice needs its list, such as: Bank, left or right");
        }
        if (!kind.hasRange() && (least.isPresent() || most.isPresent())) {
            throw limitsOfNothing(kind);
        }
        var title = unit.map(in -> label + " (" + in + ")").orElse(label);
        if (kind == ColumnType.LINK) {
            return Column.plain("c", title, kind).leading(link(target.orElseThrow()));
        }
        if (!shown.isEmpty()) {
            throw new NotUnderstood(
                    "Only a link shows columns of its table, such as: Sample, link to samples, showing number");
        }
        var min = bound(kind, least);
        var max = bound(kind, most);
        sound(min, max);
        return Column.plain("c", title, kind)
                .scaled(kind == ColumnType.DECIMAL ? scale : OptionalInt.empty())
                .of(kind == ColumnType.CHOICE ? choices : List.of())
                .within(min, max);
    }

    private Link link(Table to) {
        var columns = shown.stream().map(name -> shownColumn(to, name.strip())).toList();
        return new Link(to.name(), to.title(), columns.isEmpty() ? Link.usual(to) : columns, Link.Removed.REFUSE);
    }

    private static Column shownColumn(Table to, String name) {
        return to.columns().stream()
                .filter(column -> column.answersTo(name) || column.title().equalsIgnoreCase(name))
                .filter(column -> Link.shows(column.type()))
                .findFirst()
                .orElseThrow(() ->
                        new NotUnderstood("%s has no column “%s” of text, numbers or dates to call its records by."
                                .formatted(to.title(), name)));
    }

    /** Without a kind said, limits tell it; what is counted in a unit is measured, and so has decimals. */
    private ColumnType guessed() {
        var bounds = Stream.concat(least.stream(), most.stream()).toList();
        if (bounds.isEmpty()) {
            return unit.isPresent() ? ColumnType.DECIMAL : ColumnType.TEXT;
        }
        if (bounds.stream().allMatch(bound -> NUMBER.matcher(bound).matches())) {
            boolean measured = unit.isPresent() || bounds.stream().anyMatch(bound -> bound.matches(".*[.,].*"));
            return measured ? ColumnType.DECIMAL : ColumnType.WHOLE;
        }
        return bounds.stream().allMatch(bound -> bound.contains(":")) ? ColumnType.TIME : ColumnType.DATE;
    }

    private Optional<Value> bound(ColumnType kind, Optional<String> typed) {
        return typed.map(bound -> switch (reader.read(Kind.of(kind), bound)) {
            case Reading.Read(var value, var _) -> value;
            case Reading.Refused(var refusal) ->
                throw new NotUnderstood("The limit “%s” is not understood. %s".formatted(bound, refusal.words()));
        });
    }

    private Field field(String label, Column column) {
        var plain = FormMaking.field(column);
        return plain.labelled(unit.isPresent() || plain.unit().isEmpty() ? label : plain.label())
                .wide(width.orElse(plain.width()))
                .helped(help.orElse(""))
                .required(required || column.required())
                .used(use)
                .begun(start);
    }

    private static String words(Link link) {
        var shown = link.shown().stream().map(Column::title).toList();
        return "link to " + link.title() + (shown.isEmpty() ? "" : ", showing " + String.join(" and ", shown));
    }

    private static String words(Column column) {
        return column.link()
                .map(QuickLine::words)
                .orElseGet(() -> column.type() == ColumnType.CHOICE
                        ? String.join(" or ", column.choices())
                        : column.type().inWords());
    }

    private String words(Column column, boolean made) {
        var says = new ArrayList<String>();
        says.add((made ? "new column " : "column ") + column.name());
        says.add(words(column));
        column.scale().ifPresent(places -> says.add(places == 1 ? "1 decimal" : places + " decimals"));
        if (column.min().isPresent() && column.max().isPresent()) {
            says.add(column.min().get().spoken() + " to " + column.max().get().spoken());
        } else {
            column.min().ifPresent(min -> says.add("at least " + min.spoken()));
            column.max().ifPresent(max -> says.add("at most " + max.spoken()));
        }
        if (required || column.required()) {
            says.add("required");
        }
        if (column.unique()) {
            says.add("no two alike");
        }
        return String.join(", ", says);
    }
}
