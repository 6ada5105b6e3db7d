/** Form documents: their JSON, the working copies and the published versions. Start at {@link weft.store.form.Forms}. */
package weft.store.form;
