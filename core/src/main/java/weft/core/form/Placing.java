package weft.core.form;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import weft.core.form.Form.Section;

/** Puts new items into a form, and gives them the looks of their neighbours. */
public final class Placing {

    private Placing() {}

    /** The form with the items after its last one. */
    public static Form atEnd(Form form, List<? extends Item> items) {
        var last = form.items().reduce((first, second) -> second);
        return last.isPresent()
                ? after(form, last.get().id(), items)
                : into(form, form.sections().size() - 1, 0, items);
    }

    /** The form with the items after the one of that id; at the end when there is none. */
    public static Form after(Form form, String id, List<? extends Item> items) {
        for (int section = 0; section < form.sections().size(); section++) {
            var within = form.sections().get(section).items();
            for (int at = 0; at < within.size(); at++) {
                if (within.get(at).id().equals(id)) {
                    return into(form, section, at + 1, items);
                }
            }
        }
        return atEnd(form, items);
    }

    private static Form into(Form form, int section, int at, List<? extends Item> items) {
        var sections = new ArrayList<>(
                form.sections().isEmpty()
                        ? List.of(new Section("", Section.USUAL_COLUMNS, List.of()))
                        : form.sections());
        var place = Math.max(0, section);
        var taken = form.items().map(Item::id).collect(Collectors.toCollection(HashSet::new));
        var within = new ArrayList<>(sections.get(place).items());
        var before = at == 0 ? Optional.<Item>empty() : Optional.of(within.get(at - 1));
        var next = at;
        for (var item : items) {
            var like = item instanceof Field field ? like(field, before, sections.get(place)) : item;
            var placed = named(like, taken);
            within.add(next++, placed);
            before = Optional.of(placed);
        }
        sections.set(place, sections.get(place).with(within));
        return form.withSections(sections);
    }

    /** A field takes on the width and the look of a neighbour of its kind, else the width of its section's columns. */
    private static Field like(Field field, Optional<Item> before, Section section) {
        if (before.isPresent()
                && before.get() instanceof Field neighbour
                && neighbour.widget() == field.widget()
                && field.widget() != Field.Widget.AREA) {
            return field.wide(neighbour.width()).looking(neighbour.look());
        }
        return field.wide(Math.max(field.width(), Item.TRACKS / section.columns()));
    }

    private static Item named(Item item, Set<String> taken) {
        var id = item.id();
        for (int n = 2; !taken.add(id); n++) {
            id = item.id() + "_" + n;
        }
        return id.equals(item.id()) ? item : item.named(id);
    }
}
