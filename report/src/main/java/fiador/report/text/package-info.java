/**
 * Answers in words for a terminal, one class for each kind of answer; {@link
 * fiador.report.text.Columns} lays them out. Long lists are summed up, by {@link
 * fiador.report.text.HoldingSums} and {@link fiador.report.text.HolderSums}.
 */
package fiador.report.text;
