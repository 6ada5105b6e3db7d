/** Live events: what happens to the records of a table, sent to every Desk that has it open. */
package weft.server.event;
