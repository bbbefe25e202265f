/** Answers in formats other tools read: SARIF and the XML of test runs. */
package fiador.report.exchange;
