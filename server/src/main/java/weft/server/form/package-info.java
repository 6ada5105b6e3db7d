/**
 * Form documents over HTTP: made, worked on, published, brought. {@code FormArguments} finds the form or table that an
 * address names, for handlers everywhere; start at {@link weft.server.form.FormsApi}.
 */
package weft.server.form;
