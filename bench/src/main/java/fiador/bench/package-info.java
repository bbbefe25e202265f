/**
 * Benchmarks, run by hand: {@link fiador.bench.EstateGenerator} makes large estates, {@link
 * fiador.bench.EstateBench} asks them questions and prints medians, {@link fiador.bench.LoadBench}
 * compares loading a survey with a bare scan of its tokens, {@link fiador.bench.SqlBench} asks a
 * real PostgreSQL the same in recursive SQL. Results and commands are in {@code
 * docs/performance.md}.
 */
package fiador.bench;
