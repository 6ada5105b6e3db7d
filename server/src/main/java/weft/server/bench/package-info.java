/**
 * The Bench over HTTP: the working copy under the hands of its builders, trials of it, and rehearsals. Everything here
 * goes by the working copy and writes no record. Start at {@code BenchApi}.
 */
package weft.server.bench;
