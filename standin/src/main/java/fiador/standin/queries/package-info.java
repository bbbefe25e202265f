/**
 * Statements that read or change rows: what each of them touches, and how it is kept to what the
 * asker may see.
 */
@NullMarked
package fiador.standin.queries;

import org.jspecify.annotations.NullMarked;
