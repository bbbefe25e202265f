/** Commands that write charters and surveys or change a server. */
package fiador.cli.change;
