/** The private PostgreSQL cluster that Weft runs for itself on loopback. Start at {@link weft.store.local.LocalPostgres}. */
package weft.store.local;
