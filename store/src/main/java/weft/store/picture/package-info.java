/**
 * Pictures, kept apart from the records that name them, and cleared out when nothing ever named them. Start at {@link
 * weft.store.picture.Pictures}.
 */
package weft.store.picture;
