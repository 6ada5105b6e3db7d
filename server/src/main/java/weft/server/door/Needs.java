package weft.server.door;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import weft.core.door.May;

/** What one must be let do by a door to reach a handler. Every handler of what goes by a door says it. */
@Target(ElementType.METHOD)
@Retention(RetentionPolicy.RUNTIME)
public @interface Needs {

    /** One of these; none for whoever may go through. */
    May[] value() default {};

    /** What one must be let do besides; none for nothing more. */
    May[] with() default {};

    /** Whether papers must be keyed twice at the door, and whoever comes be somebody in particular, who could have keyed first. */
    boolean twice() default false;

    /** Whether every record of the table must be in view, since the answer tells of all of them. */
    boolean all() default false;
}
