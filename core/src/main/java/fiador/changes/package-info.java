/**
 * From what is wanted to what has to be done, and what that does to people.
 *
 * <p>{@link fiador.changes.Wanted} is a charter's demands, {@code Planner} compares them with what
 * a server has and gives {@link fiador.changes.Step}s; {@link fiador.changes.Outcome} is the estate
 * after some of them, {@link fiador.changes.PeopleEffects} and {@link fiador.changes.SightEffects}
 * are what people then hold and see otherwise; {@link fiador.changes.Gap} holds all of it together.
 *
 * <p>The order of steps: on a server that changes a database in one go, {@link
 * fiador.changes.Transactions} says what goes together. Elsewhere {@code SafeOrder} finds an order
 * in which nobody meanwhile holds too much, and {@code SightOrder} closes tables of which somebody
 * would see too much. After a stop half-way {@link fiador.changes.Done} tells what is left.
 *
 * <p>The other way, {@link fiador.changes.Adoption} is the charter of an estate as it is.
 */
package fiador.changes;
