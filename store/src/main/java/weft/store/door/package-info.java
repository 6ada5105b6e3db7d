/**
 * Doors as they are kept, the tokens by which programs go through them, and forms made ready for those who come by a door.
 * Start at {@link weft.store.door.Ways}.
 */
package weft.store.door;
