/** Answers for other programs as whole documents: a trace, SARIF, the XML of test runs. */
package fiador.report.exchange;
