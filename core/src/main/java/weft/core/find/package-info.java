/**
 * Finding records: the criteria people type, the order of records, and where one stands among those in view. Start at
 * {@link weft.core.find.CriterionReader} and {@link weft.core.find.View}.
 */
package weft.core.find;
