/**
 * Messages: sent by SMTP from the outbox, to a stand-in where no mail server is set, and looked at. Start at {@code
 * Mailing}.
 */
package weft.server.message;
