/** Findings about grants: too wide, given twice, or without what they need to work. */
package fiador.findings.grants;
