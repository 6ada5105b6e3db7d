/**
 * The border that every handler stands behind: who asks and what they saw, bodies held to their types, errors as
 * problem details, the description of the API, and the web app itself. It knows no subject. Start at {@link
 * weft.server.http.Problem} and {@link weft.server.http.Argument}.
 */
package weft.server.http;
