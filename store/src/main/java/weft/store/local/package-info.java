/**
 * The private PostgreSQL cluster that Weft runs for itself on loopback, under an account of its own where it is
 * started by root. Start at {@link weft.store.local.LocalPostgres}.
 */
package weft.store.local;
