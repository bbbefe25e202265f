/**
 * A sweep as work for Spark: {@link fiador.sweep.spark.SparkSweeps} is where it begins, {@link
 * fiador.sweep.spark.PartTask} what a worker does, {@link fiador.sweep.spark.Store} what is kept.
 */
@NullMarked
package fiador.sweep.spark;

import org.jspecify.annotations.NullMarked;
