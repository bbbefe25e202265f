/** Commands that say what is wrong or too much, with what mends it. */
package fiador.cli.tidy;
