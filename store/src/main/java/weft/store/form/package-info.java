/**
 * Form documents: their JSON, the working copies and the published versions. {@link weft.store.form.Forms}, where to
 * start, keeps them; {@link weft.store.form.FormDocument} is one that has passed the schema; {@link
 * weft.store.form.Definitions} has forms and tables ready in memory and lets go of what changes.
 */
package weft.store.form;
