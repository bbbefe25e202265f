/** The line: sessions, who logs in, limits, answers in JSON and CSV. */
@NullMarked
package fiador.standin.serving;

import org.jspecify.annotations.NullMarked;
