/**
 * Who comes in: signing in, sessions, persons and groups, and what they did. What they may do then comes from doors. Start at
 * {@code Security}, which every request passes, and {@code SessionApi}.
 */
package weft.server.people;
