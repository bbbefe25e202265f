/**
 * The frame of all findings. A {@link fiador.findings.check.Check} says what it asks ({@link
 * fiador.findings.check.Asked}) and looks at {@link fiador.findings.check.Facts}; what it finds is
 * a {@link fiador.findings.check.Finding}, said in {@link fiador.findings.check.Phrase}s so that
 * names are written by whoever shows them. {@link fiador.findings.check.Expected} is what a charter
 * says of how things ought to be.
 */
package fiador.findings.check;
