/** Forms over HTTP. {@link weft.server.form.FormArguments} finds the form of each request. */
package weft.server.form;
