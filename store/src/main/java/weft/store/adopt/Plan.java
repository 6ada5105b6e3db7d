package weft.store.adopt;

import static weft.core.table.Table.Placement.AFTER_LAST;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Link;
import weft.core.table.Names;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.value.ColumnType;
import weft.store.adopt.Existing.Key;
import weft.store.adopt.Existing.Leading;
import weft.store.adopt.Fit.Into;

/**
 * What adopting a table would come to.
 *
 * @param table what Weft would know it as
 * @param fits its columns, in the table's order
 * @param links those of them that lead to records of adopted tables
 * @param alike what is unique in several columns, by the name of its constraint
 * @param key the column by which the records of a view are told apart and numbered; empty for a table
 * @param refused why it can't be adopted; none when it can
 * @param notes what else one should know
 */
record Plan(
        Existing existing,
        Table table,
        List<Fit> fits,
        List<Leads> links,
        Map<String, Constraint.Unique> alike,
        Optional<String> key,
        List<String> refused,
        List<String> notes) {

    /** The columns that Weft adds, beside those of links. */
    static final List<String> OWN =
            List.of("_id", "_row", "_version", "_entered_at", "_entered_by", "_changed_at", "_changed_by");

    /**
     * A link, and the column added for it, which holds the identity of the record that the foreign key leads to.
     *
     * @param to the table that it leads to
     * @param itself whether that is the table that is being adopted
     */
    record Leads(Column column, String held, Leading key, Target to, boolean itself) {

        private Leads called(Table table) {
            var link = column.link().orElseThrow();
            var shown = new Link(link.to(), link.title(), Link.usual(table), link.removed());
            return new Leads(column.leading(shown), held, key, to, true);
        }
    }

    /** A table that was adopted, where it stands now. */
    record Target(String schema, String name, Table table) {

        String relation() {
            return Sql.quoted(schema, name);
        }
    }

    /** The columns by which the records of a view can be told apart, if no two are alike. */
    static List<String> keys(Existing existing) {
        return existing.columns().stream()
                .filter(part -> List.of("int2", "int4", "int8").contains(part.base()))
                .map(Existing.Part::name)
                .toList();
    }

    /**
     * @param targets the adopted tables, by schema and name
     * @param taken the names that Weft's tables have
     * @param title how people are to name it; blank for its own name
     * @param key of a view: the column by which its records are told apart, if one was named
     */
    static Plan of(
            Existing existing,
            Facts facts,
            Map<String, Target> targets,
            Set<String> taken,
            String title,
            Optional<String> key) {
        return new Planning(existing, facts, targets).plan(taken, title, key);
    }

    /** What of it is being made. */
    private static final class Planning {
        private final Existing existing;
        private final Facts facts;
        private final Map<String, Target> targets;
        private final List<String> refused = new ArrayList<>();
        private final List<String> notes = new ArrayList<>();
        private final Set<String> names = new HashSet<>();
        private final Set<String> titles = new HashSet<>();
        private final Map<String, Leads> leading = new LinkedHashMap<>();

        Planning(Existing existing, Facts facts, Map<String, Target> targets) {
            this.existing = existing;
            this.facts = facts;
            this.targets = targets;
        }

        Plan plan(Set<String> taken, String title, Optional<String> key) {
            existing.hindrance().ifPresent(refused::add);
            for (var part : existing.columns()) {
                if (!existing.view()
                        && (OWN.contains(part.name()) || part.name().startsWith("_link_"))) {
                    refused.add("It has a column named %s, which is a name of Weft's own.".formatted(part.name()));
                }
                if (!existing.view()) {
                    Fit.hindrance(part, facts.of(part.name()))
                            .filter(_ -> existing.leading().stream()
                                    .noneMatch(each -> each.columns().contains(part.name())
                                            && (toItself(each) || target(each).isPresent())))
                            .ifPresent(refused::add);
                }
            }
            if (existing.columns().isEmpty()) {
                refused.add("It has no column.");
            }
            if (existing.columns().size() > TableProposal.MOST_COLUMNS) {
                refused.add("It has %,d columns; a table of Weft has %,d at most."
                        .formatted(existing.columns().size(), TableProposal.MOST_COLUMNS));
            }
            var called = title.isBlank() ? existing.name() : title;
            var table = new Table(
                    Names.name(called, 1, new HashSet<>(taken)), Names.title(called, 1), List.of(), AFTER_LAST);
            var fits = existing.view() ? shownOnly() : fits(table);
            table = table.with(fits.stream().map(Fit::column).toList());
            var by = existing.view() ? key(key) : Optional.<String>empty();
            return new Plan(
                    existing,
                    table,
                    fits,
                    List.copyOf(new LinkedHashSet<>(leading.values())),
                    existing.view() ? Map.of() : alike(fits),
                    by,
                    List.copyOf(refused),
                    List.copyOf(notes));
        }

        private Optional<Target> target(Leading each) {
            return Optional.ofNullable(targets.get(each.schema() + "." + each.table()));
        }

        private boolean toItself(Leading each) {
            return each.schema().equals(existing.schema()) && each.table().equals(existing.name());
        }

        private List<Fit> fits(Table itself) {
            choose(itself);
            var fits = new ArrayList<Fit>();
            var made = new HashSet<Leads>();
            for (var part : existing.columns()) {
                var leads = leading.get(part.name());
                if (leads != null && made.add(leads)) {
                    fits.add(link(leads));
                }
                if (leads == null || leads.key().columns().size() > 1) {
                    var title = title(part.name());
                    var name = Names.name(part.name(), existing.columns().indexOf(part) + 1, names);
                    var fit = Fit.of(
                            part,
                            name,
                            title,
                            facts.of(part.name()),
                            Limits.of(existing.checks(), part.name()),
                            existing.keys().stream()
                                    .anyMatch(key -> key.columns().equals(List.of(part.name()))));
                    fits.add(leads == null ? fit : following(fit, leads));
                }
            }
            // What its own records are called is known once its columns are.
            var all = itself.with(fits.stream().map(Fit::column).toList());
            leading.replaceAll((_, leads) -> leads.itself() ? leads.called(all) : leads);
            return fits.stream()
                    .map(fit -> leading.values().stream()
                            .filter(leads -> leads.itself()
                                    && leads.column().name().equals(fit.column().name()))
                            .findFirst()
                            .map(Planning::link)
                            .orElse(fit))
                    .toList();
        }

        /** What follows from a link of several columns is only seen; the link writes it. */
        private static Fit following(Fit fit, Leads leads) {
            var shown = fit.column()
                    .required(false)
                    .unique(false)
                    .onlyShown(Optional.of(
                            "It follows from %s.".formatted(leads.column().title())));
            return new Fit(shown, fit.base(), fit.how(), List.of(), List.of());
        }

        /** Which foreign keys become links. A column belongs to one of them at most; keys of one column come first. */
        private void choose(Table itself) {
            for (var each : existing.leading()) {
                var to = toItself(each)
                        ? Optional.of(new Target(existing.schema(), existing.name(), itself))
                        : target(each);
                var why = to.isEmpty()
                        ? "%s.%s is not adopted. Adopt that one first if it is to be a link"
                                .formatted(each.schema(), each.table())
                        : each.deferrable()
                                ? "what it leads to may come later in a transaction"
                                : !each.valid()
                                        ? "it does not hold of every row"
                                        : each.columns().stream().anyMatch(leading::containsKey)
                                                ? "another foreign key has one of its columns"
                                                : "";
                if (!why.isEmpty()) {
                    notes.add("%s is typed as it is stored, and held by the database: %s."
                            .formatted(String.join(", ", each.columns()), why));
                    continue;
                }
                var target = to.orElseThrow();
                var heading = each.columns().size() == 1 ? each.columns().getFirst() : each.table();
                var title = title(heading);
                var name = Names.name(heading, 1, names);
                boolean needed = each.columns().stream()
                        .allMatch(column -> existing.column(column).needed());
                boolean unique =
                        existing.keys().stream().anyMatch(key -> key.columns().equals(each.columns()));
                var removed = each.deleted().equals("n") && !needed ? Link.Removed.EMPTY : Link.Removed.REFUSE;
                var column = Column.plain(name, title, ColumnType.LINK)
                        .required(needed)
                        .unique(unique)
                        .leading(new Link(
                                target.table().name(), target.table().title(), Link.usual(target.table()), removed));
                var leads = new Leads(column, cut("_link_" + name), each, target, toItself(each));
                each.columns().forEach(base -> leading.put(base, leads));
                if (each.deleted().equals("c")) {
                    notes.add(
                            "Rows go with the one that %s leads to, when another program deletes that. Weft refuses to remove it."
                                    .formatted(title));
                }
            }
        }

        private static Fit link(Leads leads) {
            var found = new ArrayList<Into>();
            for (int i = 0; i < leads.key().columns().size(); i++) {
                found.add(new Into(
                        leads.key().columns().get(i),
                        "(select k.%s from %s k where k._id = new.%s)"
                                .formatted(
                                        Sql.quoted(leads.key().keys().get(i)),
                                        leads.to().relation(),
                                        Sql.quoted(leads.column().name()))));
            }
            return new Fit(
                    leads.column(), leads.key().columns(), new Fit.Seen(leads.held(), "%1$s", true), found, found);
        }

        private List<Fit> shownOnly() {
            return existing.columns().stream()
                    .map(part -> {
                        var title = title(part.name());
                        var fit = Fit.of(
                                part,
                                Names.name(part.name(), existing.columns().indexOf(part) + 1, names),
                                title,
                                facts.of(part.name()),
                                new Limits(List.of(), List.of()),
                                false);
                        var shown = fit.column()
                                .required(false)
                                .within(Optional.empty(), Optional.empty())
                                .upTo(OptionalInt.empty())
                                .onlyShown(Optional.of("It comes of a view."));
                        return new Fit(shown, fit.base(), fit.how(), List.of(), List.of());
                    })
                    .toList();
        }

        /** The column by which a view's records are told apart: the one named, else the first whole number. */
        private Optional<String> key(Optional<String> named) {
            var able = keys(existing);
            if (named.isPresent() && !able.contains(named.get())) {
                refused.add("The records of a view are told apart by whole numbers, and %s holds none."
                        .formatted(named.get()));
                return Optional.empty();
            }
            if (able.isEmpty()) {
                refused.add(
                        "A view needs a column of whole numbers, no two alike, by which its records are told apart.");
            }
            return named.or(() -> able.stream().findFirst());
        }

        private Map<String, Constraint.Unique> alike(List<Fit> fits) {
            var byBase = new HashMap<String, String>();
            fits.stream()
                    .filter(fit -> fit.base().size() == 1)
                    .forEach(fit ->
                            byBase.put(fit.base().getFirst(), fit.column().name()));
            return existing.keys().stream()
                    .filter(key -> key.columns().size() > 1 && byBase.keySet().containsAll(key.columns()))
                    .collect(Collectors.toMap(
                            Key::name,
                            key -> new Constraint.Unique(
                                    "", key.columns().stream().map(byBase::get).toList(), "")));
        }

        private String title(String heading) {
            var title = Names.title(heading, existing.columns().size());
            var unique = title;
            for (int n = 2; !titles.add(unique); n++) {
                unique = title + " " + n;
            }
            return unique;
        }

        private static String cut(String name) {
            return name.length() <= Names.LONGEST_NAME ? name : name.substring(0, Names.LONGEST_NAME);
        }
    }
}
