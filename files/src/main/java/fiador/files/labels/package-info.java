/** Lists of what carries a label, beside any charter. */
@NullMarked
package fiador.files.labels;

import org.jspecify.annotations.NullMarked;
