/**
 * How names, times and characters are shown, to people ({@link fiador.report.shown.Shown}) and on a
 * terminal ({@link fiador.report.shown.Visible}).
 */
package fiador.report.shown;
