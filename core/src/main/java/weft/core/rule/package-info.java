/** What a builder declares about entries: checks, fills, formulas, choice lists, running numbers and steps. */
package weft.core.rule;
