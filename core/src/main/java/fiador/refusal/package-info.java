/** Why something is not done: {@link fiador.refusal.Refusal}, which all others are. */
@org.jspecify.annotations.NullMarked
package fiador.refusal;
