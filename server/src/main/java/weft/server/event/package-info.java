/**
 * Live events: what happens to the records of a table, its forms and itself, sent to every page that has it open. Each
 * listener is served at its own pace ({@code Listeners}); start at {@code EventsApi}.
 */
package weft.server.event;
