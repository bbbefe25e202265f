/**
 * Which users, roles and things an answer is about: {@link fiador.selection.Selection}, with {@link
 * fiador.selection.NamePattern} where several are meant by one name.
 */
@NullMarked
package fiador.selection;

import org.jspecify.annotations.NullMarked;
