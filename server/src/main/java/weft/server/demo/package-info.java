/**
 * The demo: an invented group of volunteers who test three invented rivers, made from a fixed seed and loaded by the
 * way that people use. Start at {@link weft.server.demo.Demo}; each table has a class.
 */
package weft.server.demo;
