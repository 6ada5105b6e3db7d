/**
 * Entries over HTTP: assessed while they are typed, saved, changed, and the buttons and lists on the way. {@link
 * weft.server.entry.Drafts}, where to start, makes a draft of a request; what is decided about it is decided in {@code
 * weft.store.entry}.
 */
package weft.server.entry;
