/** Commands that ask and change nothing. */
package fiador.cli.ask;
