/**
 * Doors at the border: what a request may do is decided here, once, before any handler is reached. Start at {@link
 * weft.server.door.Passage}.
 */
package weft.server.door;
