package weft.core.rule;

import weft.core.table.Constraint;

/** What holds between the records of the form's table. It is the table's, and so holds whoever writes. */
public record Between(Constraint constraint) implements Declaration {}
