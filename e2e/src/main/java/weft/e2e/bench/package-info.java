/** Benchmarks. Each figure is printed as a ratio against a reference measured in the same run. */
package weft.e2e.bench;
