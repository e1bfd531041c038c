/**
 * Benchmarks with JMH. Machines differ and are shared: every figure is to be read as a ratio to the limit in the same run, one pass
 * over the pixels. Start at {@link app.ironside.bench.SubBenchmark}.
 */
package app.ironside.bench;
