/** Weft as a whole, driven in a real browser: stories, pictures, benchmarks. */
package weft.e2e;
