/** Forms over HTTP. {@link weft.server.form.PreparedForms} keeps published forms ready for entries. */
package weft.server.form;
