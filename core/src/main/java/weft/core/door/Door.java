package weft.core.door;

import java.time.LocalDateTime;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import weft.core.find.Where;
import weft.core.table.Table;
import weft.core.twice.Twice;

/**
 * A way in to a published form.
 *
 * @param id names it in addresses; no form has the same
 * @param title the name people read
 * @param form the form behind it
 * @param who may go through
 * @param may what they may do with its records
 * @param view which records they see
 * @param filled by column, the formula of what a new entry has there; nobody types it
 * @param fields which of the form's fields they get otherwise
 * @param keying whether entries are keyed one at a time or many, a line each
 * @param takeBack for how many minutes one may take an entry of one's own back; 0 for never
 * @param opens whether it opens by itself after signing in
 * @param done what comes after done
 * @param twice which papers are keyed a second time at this door, if any are
 */
public record Door(
        String id,
        String title,
        String form,
        Who who,
        Set<May> may,
        InView view,
        Map<String, String> filled,
        Fields fields,
        Keying keying,
        int takeBack,
        boolean opens,
        Done done,
        Optional<Twice> twice) {

    /** The longest time in which entries can be taken back: a week, in minutes. */
    public static final int LONGEST_TAKE_BACK = 7 * 24 * 60;

    public Door {
        may = may.isEmpty() ? Set.of() : Set.copyOf(EnumSet.copyOf(may));
        filled = Map.copyOf(filled);
    }

    /** A door at which nothing is keyed a second time. */
    public Door(
            String id,
            String title,
            String form,
            Who who,
            Set<May> may,
            InView view,
            Map<String, String> filled,
            Fields fields,
            Keying keying,
            int takeBack,
            boolean opens,
            Done done) {
        this(id, title, form, who, may, view, filled, fields, keying, takeBack, opens, done, Optional.empty());
    }

    /** The same, where papers are keyed a second time so. */
    public Door twice(Twice so) {
        return new Door(
                id, title, form, who, may, view, filled, fields, keying, takeBack, opens, done, Optional.of(so));
    }

    /**
     * Who may go through.
     *
     * @param groups the names of groups
     * @param people the names of persons
     * @param link whether anybody may who has its secret address
     * @param from not before that
     * @param until not after that
     */
    public record Who(
            Set<String> groups,
            Set<String> people,
            boolean link,
            Optional<LocalDateTime> from,
            Optional<LocalDateTime> until) {

        public Who {
            groups = Set.copyOf(groups);
            people = Set.copyOf(people);
        }

        /** Those of that group, at any time. */
        public static Who of(String group) {
            return new Who(Set.of(group), Set.of(), false, Optional.empty(), Optional.empty());
        }

        boolean open(LocalDateTime now) {
            return from.filter(now::isBefore).isEmpty()
                    && until.filter(now::isAfter).isEmpty();
        }

        boolean lets(Person person) {
            return people.contains(person.name()) || person.groups().stream().anyMatch(groups::contains);
        }
    }

    /**
     * Which records they see.
     *
     * @param where criteria, each {@code column:criterion} in the words of finding; a record in view matches all of them
     * @param own only those they entered themselves
     */
    public record InView(List<String> where, boolean own) {

        /** Every record. */
        public static final InView ALL = new InView(List.of(), false);

        public InView {
            where = List.copyOf(where);
        }

        /** Whether it is every record. */
        public boolean all() {
            return where.isEmpty() && !own;
        }
    }

    /**
     * Which of the form's fields they get otherwise, by column.
     *
     * @param leftOut never sent to them
     * @param locked seen, and not changed
     */
    public record Fields(Set<String> leftOut, Set<String> locked) {

        /** All as the form has them. */
        public static final Fields AS_THEY_ARE = new Fields(Set.of(), Set.of());

        public Fields {
            leftOut = Set.copyOf(leftOut);
            locked = Set.copyOf(locked);
        }
    }

    /** How many entries are keyed at once. */
    public enum Lines {
        /** One, in the form. */
        ONE,
        /** Many, a line each. */
        MANY,
        /** As one likes. */
        BOTH;
    }

    /** What of many lines is saved. */
    public enum Keep {
        /** All together, or none. */
        ALL,
        /** Those that pass, while the others stay. */
        PASSING
    }

    /**
     * How entries are keyed.
     *
     * @param same the columns that are keyed once for all lines; empty for those that the form carries over
     * @param keep what of many lines may be saved
     */
    public record Keying(Lines lines, Set<String> same, Keep keep) {

        /** One after the other. */
        public static final Keying ONE = new Keying(Lines.ONE, Set.of(), Keep.ALL);

        public Keying {
            same = Set.copyOf(same);
        }

        /** Whether many lines can be keyed at once. */
        public boolean many() {
            return lines != Lines.ONE;
        }
    }

    /** What comes after done. */
    public enum Done {
        /** The next new entry. */
        STAY,
        /** Back to where it was opened from. */
        BACK,
        /** A page that says it is done. */
        CLOSE
    }

    /** The door that every form is born with: all of it, for builders. Its id is the form's. */
    public static Door everything(String form) {
        return new Door(
                form,
                "Everything",
                form,
                Who.of(Person.BUILDERS),
                EnumSet.allOf(May.class),
                InView.ALL,
                Map.of(),
                Fields.AS_THEY_ARE,
                new Keying(Lines.BOTH, Set.of(), Keep.PASSING),
                0,
                false,
                Done.STAY);
    }

    /** The same for others. */
    public Door let(Who others) {
        return new Door(id, title, form, others, may, view, filled, fields, keying, takeBack, opens, done, twice);
    }

    /** Whether it is the one that a form is born with. */
    public boolean isEverything() {
        return id.equals(form);
    }

    /** Whether whoever goes through may only add. */
    public boolean addsOnly() {
        return may.equals(Set.of(May.ADD));
    }

    /** Whether it shows every record. */
    public boolean seesAll() {
        return may.contains(May.SEE) && view.all();
    }

    /** The same with every column called as the table calls it now. */
    public Door following(Table table) {
        UnaryOperator<String> now =
                name -> table.column(name).map(column -> column.name()).orElse(name);
        var renamed = new LinkedHashMap<String, String>();
        filled.forEach((column, formula) -> renamed.put(now.apply(column), formula));
        var where = view.where().stream()
                .map(each -> Where.of(each).following(now).toString())
                .toList();
        return new Door(
                id,
                title,
                form,
                who,
                may,
                new InView(where, view.own()),
                renamed,
                new Fields(named(fields.leftOut(), now), named(fields.locked(), now)),
                new Keying(keying.lines(), named(keying.same(), now), keying.keep()),
                takeBack,
                opens,
                done,
                twice.map(each -> each.renamed(now)));
    }

    private static Set<String> named(Set<String> columns, UnaryOperator<String> now) {
        return columns.stream().map(now).collect(Collectors.toCollection(LinkedHashSet::new));
    }
}
