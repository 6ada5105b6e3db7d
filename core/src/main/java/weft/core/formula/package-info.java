/**
 * Formulas in FEEL, the expression language of OMG's DMN standard: read, asked for the names they use, and answered in
 * bounded time.
 */
package weft.core.formula;
