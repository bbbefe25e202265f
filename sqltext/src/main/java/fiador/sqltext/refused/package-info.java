/** What servers say when they refuse something: {@link fiador.sqltext.refused.RefusedText}. */
@NullMarked
package fiador.sqltext.refused;

import org.jspecify.annotations.NullMarked;
