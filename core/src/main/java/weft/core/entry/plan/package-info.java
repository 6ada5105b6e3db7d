/**
 * Published forms made ready for entries, once: formulas read, columns and tables found, an order in which each field comes
 * after what it depends on, and what cannot be followed said as a fault. Start at {@link weft.core.entry.plan.EntryPlan};
 * {@code Planning} makes it, with a class beside it for checks and one for steps.
 */
package weft.core.entry.plan;
