/**
 * One server's estate as rows of tables; no Spark and no files here. {@link
 * fiador.sweep.estate.EstateRows} is the whole, {@link fiador.sweep.estate.Alike} what makes it
 * small.
 */
@NullMarked
package fiador.sweep.estate;

import org.jspecify.annotations.NullMarked;
