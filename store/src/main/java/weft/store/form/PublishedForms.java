package weft.store.form;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import weft.core.form.Form;

/** The published forms of a moment, on all tables: read once for whoever looks at one table after another. */
public final class PublishedForms {

    private final List<Form> all;
    private final Map<String, List<Form>> byTable;

    PublishedForms(List<Form> all) {
        this.all = all;
        this.byTable = all.stream().collect(Collectors.groupingBy(Form::table));
    }

    /** The tables that there are some on. */
    public Set<String> tables() {
        return byTable.keySet();
    }

    /** Those on that table. */
    public List<Form> on(String table) {
        return byTable.getOrDefault(table, List.of());
    }

    /** The columns of that table by which rules of forms, on any table, look for its records. */
    public Set<String> lookedUpIn(String table) {
        return all.stream()
                .flatMap(form -> form.rules().lookUps(table).stream())
                .collect(Collectors.toSet());
    }
}
