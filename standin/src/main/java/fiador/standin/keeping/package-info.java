/** What the stand-in keeps on disk: a journal of what was carried out, and the rows. */
@NullMarked
package fiador.standin.keeping;

import org.jspecify.annotations.NullMarked;
