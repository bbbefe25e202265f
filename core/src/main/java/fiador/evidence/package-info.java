/**
 * What is known from outside a server: {@link fiador.evidence.Evidence} of what was used, and
 * {@link fiador.evidence.Identities}, the people an organisation knows. Neither reads a file:
 * builders take what readers found.
 */
package fiador.evidence;
