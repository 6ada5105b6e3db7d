package weft.core.entry.plan;

import weft.core.form.FormLines;
import weft.core.table.Column;

/**
 * Lines in a form made ready: each is assessed as an entry of its own table.
 *
 * @param item the lines on the form
 * @param plan of the form that their fields and rules make on their table, with one more field for the link
 * @param by the column that links each line to the form's record
 */
public record LinesPlan(FormLines item, EntryPlan plan, Column by) {}
