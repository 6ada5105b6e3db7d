/**
 * Weft's storage in PostgreSQL. {@link weft.store.Database} opens one; the packages below keep tables, forms, records and
 * files brought in.
 */
package weft.store;
