/** Messages: sent by SMTP from the outbox, and looked at. */
package weft.server.message;
