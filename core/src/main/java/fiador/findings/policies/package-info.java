/** Findings about row and mask policies, their guard, and seals. */
package fiador.findings.policies;
