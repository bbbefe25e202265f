/** Findings about roles and memberships. */
package fiador.findings.roles;
