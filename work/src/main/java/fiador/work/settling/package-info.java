/**
 * Makes a server what its charter says. Read {@link fiador.work.settling.Settlement} first, then
 * {@link fiador.work.settling.Task} (what is settled), {@link fiador.work.settling.Settled} and
 * {@link fiador.work.settling.Followed} (what came of it), {@link fiador.work.settling.Listener}
 * (who is told on the way).
 */
@org.jspecify.annotations.NullMarked
package fiador.work.settling;
