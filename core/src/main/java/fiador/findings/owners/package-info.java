/** Findings about who owns things. */
package fiador.findings.owners;
