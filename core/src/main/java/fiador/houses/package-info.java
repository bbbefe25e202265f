/**
 * Kinds of server that come in without code. A {@link fiador.houses.HouseSheet} says how such a
 * kind behaves, where its facts are found and how its statements are written.
 *
 * <p>Facts come as rows, out of a query or a file: a {@link fiador.houses.FactSource} says what is
 * what in them, by {@link fiador.houses.FieldValue}s; bound to a header it is a {@link
 * fiador.houses.BoundSource}. {@link fiador.houses.SheetSurvey} takes the rows of all sorts, in the
 * order of {@link fiador.houses.FactSort}, and makes an estate of them.
 */
@NullMarked
package fiador.houses;

import org.jspecify.annotations.NullMarked;
