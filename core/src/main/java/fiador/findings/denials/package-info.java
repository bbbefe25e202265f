/** Findings about denials: what they hide, what they contradict, and what they outlived. */
package fiador.findings.denials;
