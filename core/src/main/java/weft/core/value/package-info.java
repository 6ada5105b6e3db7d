/**
 * Values and how people type them: a column's type, the typed value, and the reading of what was keyed under a form's
 * conventions. Start at {@link weft.core.value.ValueReader}.
 */
package weft.core.value;
