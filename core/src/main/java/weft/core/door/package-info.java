/**
 * Who comes, and what they may do: a {@link weft.core.door.Door} says what is behind it and who may go through, a {@link
 * weft.core.door.Pass} what one person may do by it, and {@link weft.core.door.Narrowing} what of a form, a table and an
 * entry they see.
 */
package weft.core.door;
