/** Who and what there is on the stand-in, what was given and refused, and who may do what. */
@NullMarked
package fiador.standin.estate;

import org.jspecify.annotations.NullMarked;
