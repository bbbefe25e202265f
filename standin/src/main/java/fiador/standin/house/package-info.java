/** What a house sheet says of how a server behaves, as far as the stand-in can behave so. */
@NullMarked
package fiador.standin.house;

import org.jspecify.annotations.NullMarked;
