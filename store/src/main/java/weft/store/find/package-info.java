/**
 * Finding and ordering records in PostgreSQL. Few matches are gathered and numbered as a whole, many are walked along
 * an index. Start at {@link weft.store.find.Views}; {@code FindSql} is the only place that writes criteria as SQL, and
 * {@code Indexes} makes indexes on those very expressions.
 */
package weft.store.find;
