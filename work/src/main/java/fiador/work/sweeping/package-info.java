/**
 * What a sweep over many servers is asked for, and what comes back; who carries it out comes apart.
 */
@NullMarked
package fiador.work.sweeping;

import org.jspecify.annotations.NullMarked;
