/** What is usual, counted in the database: {@link weft.store.usual.UsualCounts} keeps what the rules of forms need. */
@NullMarked
package weft.store.usual;

import org.jspecify.annotations.NullMarked;
