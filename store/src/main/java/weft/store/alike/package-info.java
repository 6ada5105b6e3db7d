/**
 * Records that are nearly the same among all that a table holds: {@link weft.store.alike.AlikeLooks} looks for them and keeps what
 * it found.
 */
@NullMarked
package weft.store.alike;

import org.jspecify.annotations.NullMarked;
