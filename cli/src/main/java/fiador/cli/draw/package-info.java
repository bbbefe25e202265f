/** Answers as pictures: {@link fiador.cli.draw.DrawCommand}. */
@NullMarked
package fiador.cli.draw;

import org.jspecify.annotations.NullMarked;
