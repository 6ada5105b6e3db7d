/**
 * Records that are nearly the same: {@link weft.core.alike.Near} says how near two values are, {@link weft.core.alike.Likeness} how
 * near two records are in several columns, in words that people can follow. Begin with {@code Likeness}.
 */
@NullMarked
package weft.core.alike;

import org.jspecify.annotations.NullMarked;
