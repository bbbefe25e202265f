/**
 * A small warehouse server for trying, learning and tests. It behaves as a house sheet says and
 * enforces by itself, statement by statement: nothing here knows how Fiador works privileges out,
 * or comparing the two would prove nothing. {@link fiador.standin.house} reads what the sheet says,
 * {@link fiador.standin.estate} is who and what there is and who may do what, {@link
 * fiador.standin.deeds} the statements about it, {@link fiador.standin.queries} those that read and
 * change rows, {@link fiador.standin.keeping} what is kept on disk, {@link fiador.standin.serving}
 * the line, and {@link fiador.standin.driver} its other end, which one stand-in needs to ask
 * another.
 */
@NullMarked
package fiador.standin;

import org.jspecify.annotations.NullMarked;
