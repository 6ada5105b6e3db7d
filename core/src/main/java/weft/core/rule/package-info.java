/**
 * What a builder declares about entries: checks, fills, formulas, choice lists, running numbers and steps. These are
 * declarations only: formulas are texts here, and {@code weft.core.entry.plan} makes all of it ready. Start at {@link
 * weft.core.rule.Rules}.
 */
package weft.core.rule;
