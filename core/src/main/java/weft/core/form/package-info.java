/** Forms: what a form document says, and the making of a form from a table. Start at {@link weft.core.form.Form}. */
package weft.core.form;
