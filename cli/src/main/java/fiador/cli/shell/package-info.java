/**
 * What commands share: options, output, exit codes, and where charters, surveys and ledgers are
 * found.
 */
package fiador.cli.shell;
