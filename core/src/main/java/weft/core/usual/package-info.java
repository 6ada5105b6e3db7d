/**
 * Whether a value is as usual for its group of records: {@link weft.core.usual.Grouping} says of which records, {@link
 * weft.core.usual.Counts} what their values have been and whether one more is unusual. Begin with {@code Grouping}.
 */
@NullMarked
package weft.core.usual;

import org.jspecify.annotations.NullMarked;
