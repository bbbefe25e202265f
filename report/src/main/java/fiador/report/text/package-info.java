/**
 * Answers in words for a terminal, one class for each kind of answer; {@link
 * fiador.report.text.Columns} lays them out.
 */
package fiador.report.text;
