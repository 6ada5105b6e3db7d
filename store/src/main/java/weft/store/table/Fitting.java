package weft.store.table;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import weft.core.record.Links;
import weft.core.record.RememberedRows;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Fit;
import weft.core.table.Link;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** How stored values become those of a column as it is to be. */
interface Fitting {

    /** The value as the column would hold it, or refused with a sentence. */
    Reading of(Value stored);

    /** Says which values will be asked for, so that what must be looked up is looked up at once. */
    default void ahead(List<Value> values) {}

    /**
     * For the column as it is to be: of a link, each value is the words of a record, or the record itself where the column links
     * to that table already.
     *
     * @param from the column as it is
     * @param written how dates and numbers are written in stored text, where somebody has said so
     */
    static Fitting of(Column from, Column column, Optional<Conventions> written, StoredRows stored) {
        if (from.link().isPresent()
                && from.link().map(Link::to).equals(column.link().map(Link::to))) {
            return value -> new Reading.Read(value, "");
        }
        return column.link()
                .<Fitting>map(link ->
                        new ToLink(column, link, written.orElse(Conventions.DEFAULT), new RememberedRows(stored)))
                .orElseGet(() -> new Fit(column, written)::of);
    }

    /** Words, each as the one record that is called so. */
    final class ToLink implements Fitting {
        private static final ValueReader PLAIN = ValueReader.ofStored(Conventions.DEFAULT);

        private final Column column;
        private final Link link;
        private final RememberedRows stored;
        private final Links links;

        ToLink(Column column, Link link, Conventions written, RememberedRows stored) {
            this.column = column;
            this.link = link;
            this.stored = stored;
            this.links = new Links(stored, written);
        }

        @Override
        public Reading of(Value value) {
            return links.meant(column, PLAIN.read(column.kind(), value.spoken()), Value.EMPTY);
        }

        @Override
        public void ahead(List<Value> values) {
            var words = new HashSet<String>();
            values.stream().filter(value -> !value.isEmpty()).forEach(value -> words.add(value.spoken()));
            Links.lookUp(link, words, stored);
        }
    }
}
