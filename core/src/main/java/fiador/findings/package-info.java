/**
 * What is wrong with an estate. Read {@link fiador.findings.check.Check} and {@link
 * fiador.findings.check.Facts} first, then any one check, such as {@link
 * fiador.findings.roles.EmptyRole}; {@link fiador.findings.Findings} lists all of them and runs
 * them. Everything here only reads; what should be done comes out as steps of {@code changes}.
 *
 * <p>A new finding is one class in the package of its subject, one line in {@code Findings}, one
 * line in {@code docs/findings.md}, and a test that shows it present and absent.
 */
package fiador.findings;
