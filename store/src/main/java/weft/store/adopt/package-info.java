/**
 * Tables that exist already, in other schemas of the same database, adopted as they are: other programs go on writing to them.
 * {@link weft.store.adopt.Catalog} reads what a table is, {@link weft.store.adopt.Fit} says what each of its columns becomes,
 * {@link weft.store.adopt.Plan} puts that together and into words, {@link weft.store.adopt.AdoptSql} into statements, and
 * {@link weft.store.adopt.Adoptions}, where to start, carries them out and takes them back. A view in schema records stands
 * for the table from then on, so that the rest of the house need not know.
 */
@NullMarked
package weft.store.adopt;

import org.jspecify.annotations.NullMarked;
