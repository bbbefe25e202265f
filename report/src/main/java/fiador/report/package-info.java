/**
 * Answers to the eye and to programs. {@link fiador.report.shown.Shown} gives things and people
 * their names in text; {@link fiador.report.rows.HoldingRows}, {@link
 * fiador.report.text.HoldingText} and {@link fiador.report.text.TraceText} lay answers out; {@link
 * fiador.report.rows.RowWriter} writes rows in every machine format.
 */
package fiador.report;
