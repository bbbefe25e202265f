/**
 * Long rows of numbers and characters, on the heap or read in pieces from where they are kept:
 * {@link fiador.columns.Ints}, {@link fiador.columns.Chars}; and where they are laid down and found
 * again: {@link fiador.columns.ColumnSink}, {@link fiador.columns.ColumnSource}.
 */
@NullMarked
package fiador.columns;

import org.jspecify.annotations.NullMarked;
