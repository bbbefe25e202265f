/** Why something is not done: {@link fiador.refusal.Refusal}, which all others are. */
package fiador.refusal;
