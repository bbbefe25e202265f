/**
 * Answers for programs: {@link fiador.report.rows.RowWriter} writes rows in each format; the fields
 * are those of docs/output.md.
 */
package fiador.report.rows;
