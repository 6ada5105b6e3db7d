/** What operators watch: figures of this server and of the database, in the format that Prometheus reads. Start at {@link weft.server.watch.Measures}. */
package weft.server.watch;
