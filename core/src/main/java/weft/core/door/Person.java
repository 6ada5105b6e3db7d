package weft.core.door;

import java.util.Set;

/**
 * Somebody who is signed in.
 *
 * @param name what they sign in with; it never becomes another's, and stands for them in records and history
 * @param title what others read
 * @param groups the names of the groups they are in
 */
public record Person(String name, String title, Set<String> groups) {

    /** The group of those who make tables, forms and doors. */
    public static final String BUILDERS = "Builders";

    /** The group of those who see to people, groups and settings. */
    public static final String ADMINISTRATORS = "Administrators";

    /** The groups that are always there. */
    public static final Set<String> ALWAYS = Set.of(BUILDERS, ADMINISTRATORS);

    public Person {
        groups = Set.copyOf(groups);
    }

    /** Whether they make tables, forms and doors. */
    public boolean builds() {
        return groups.contains(BUILDERS);
    }

    /** Whether they see to people. */
    public boolean administers() {
        return groups.contains(ADMINISTRATORS);
    }
}
