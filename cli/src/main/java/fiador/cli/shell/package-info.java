/** What commands share: options, output, exit codes, and what an answer is made from. */
package fiador.cli.shell;
