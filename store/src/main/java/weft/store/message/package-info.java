/**
 * The outbox: messages are written with the entries they go with, in one transaction, and sent afterwards, each once
 * by whichever server comes first. Start at {@link weft.store.message.Outbox}.
 */
package weft.store.message;
