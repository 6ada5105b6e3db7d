/** Pictures, kept apart from the records that name them. */
package weft.store.picture;
