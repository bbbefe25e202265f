/**
 * Sweeps over many servers: {@link fiador.cli.sweep.SweepCommand} makes one, the others ask it. The
 * engine comes apart; {@link fiador.cli.sweep.Elsewhere} starts it.
 */
package fiador.cli.sweep;
