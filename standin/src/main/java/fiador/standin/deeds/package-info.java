/** The stand-in's own statements about accounts, rights and things, read and carried out. */
@NullMarked
package fiador.standin.deeds;

import org.jspecify.annotations.NullMarked;
