/** Persons, their groups, the invitations by which they come, and what they did that others must be able to look up. */
package weft.store.people;
