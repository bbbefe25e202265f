/**
 * From what is wanted to what has to be done, and what that does to people.
 *
 * <p>{@link fiador.changes.Gap} holds all of it together; {@link fiador.changes.Seals} and {@code
 * Refusals} say what is never done. The rooms inside, each looking left only: {@code wanted} and
 * {@code steps}, then {@code outcome}, then {@code planning}, then {@code ordering} and {@code
 * adopting}.
 */
package fiador.changes;
