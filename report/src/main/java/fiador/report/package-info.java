/**
 * Answers to the eye and to programs. {@link fiador.report.Shown} gives things and people their
 * names in text; {@link fiador.report.HoldingRows}, {@link fiador.report.HoldingText} and {@link
 * fiador.report.TraceText} lay answers out; {@link fiador.report.RowWriter} writes rows in every
 * machine format.
 */
package fiador.report;
