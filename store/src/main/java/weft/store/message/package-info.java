/** The outbox: messages written with entries, and sent afterwards. */
package weft.store.message;
