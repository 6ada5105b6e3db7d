/**
 * Whether an entry may be stored. {@link weft.core.entry.check.ColumnChecks} are those that a column's definition makes;
 * {@link weft.core.entry.check.RuleChecks}, where to start, are the form's own and what must hold between records. Each kind
 * of check says what is wrong and what would be right, in one sentence.
 */
package weft.core.entry.check;
