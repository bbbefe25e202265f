/**
 * The commands: parse, call, render, exit code. {@link fiador.cli.Main} builds only the command
 * that was asked for, because building them all takes longer than most answers.
 */
package fiador.cli;
