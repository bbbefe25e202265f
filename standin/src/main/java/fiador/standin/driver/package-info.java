/** A JDBC driver for the stand-in. */
@NullMarked
package fiador.standin.driver;

import org.jspecify.annotations.NullMarked;
