/** Findings about accounts: who can log in, who stands behind them, what powers they have. */
package fiador.findings.accounts;
