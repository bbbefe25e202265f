/**
 * The tables a sweep leaves, and how they are written: {@link fiador.sweep.tables.Table} is the
 * contract of docs/sweep.md.
 */
@NullMarked
package fiador.sweep.tables;

import org.jspecify.annotations.NullMarked;
