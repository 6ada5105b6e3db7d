package weft.core.sentence;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.sentence.Terms.Term;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** A form of samples, with labels that are easily taken for something else. */
final class River {

    private River() {}

    static final Table SAMPLES = table(
            "samples",
            "site_code Site",
            "site_name Site name",
            "river River",
            "taken_on Taken on",
            "at At",
            "ph pH",
            "oxygen Oxygen",
            "water_c Water",
            "flow Flow",
            "phone Phone",
            "e_mail E-mail",
            "code Code",
            "from_at From",
            "to_at To",
            "kit_tag Kit tag",
            "taken_by Taken by",
            "days Days",
            "cost Cost",
            "number Number",
            "needs Needs",
            "is_odd is",
            "or_not Phone or E-mail",
            "once once saved",
            "comma A, B",
            "said say \"hi\"",
            "twin Site",
            "filled Flow is");

    private static final List<Table> OTHERS = List.of(
            SAMPLES,
            table("sites", "code Code", "name Name", "river River"),
            table("volunteers", "name Name", "role Role", "team Team"),
            table("incidents", "site Site", "what What", "sample Sample"),
            table("from", "to To", "by By"));

    static final Terms TERMS = new Terms(
            SAMPLES,
            SAMPLES.columns().stream()
                    .map(column -> new Term(column.name(), column.title()))
                    .toList(),
            List.of(new Term("total-1", "Total")),
            List.of(new Term("send", "Send it"), new Term("odd", "with")),
            name -> OTHERS.stream()
                    .filter(table -> table.name().equals(name) || table.title().equalsIgnoreCase(name))
                    .findFirst(),
            () -> OTHERS.stream().map(Table::name).toList(),
            () -> List.of(new Term("bookings", "Bookings of kit")));

    static final Sentences SENTENCES = new Sentences(TERMS);

    private static Table table(String name, String... columns) {
        return new Table(
                name,
                name.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + name.substring(1),
                Stream.of(columns)
                        .map(each -> each.split(" ", 2))
                        .map(each -> Column.plain(each[0], each[1], ColumnType.TEXT))
                        .toList(),
                Table.Placement.AFTER_LAST);
    }

    static Optional<String> refusal(String sentence) {
        try {
            SENTENCES.read(sentence);
            return Optional.empty();
        } catch (Unclear unclear) {
            return Optional.of(unclear.sentence());
        }
    }
}
