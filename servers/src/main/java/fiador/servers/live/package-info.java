/**
 * Acting on a live server: {@link fiador.servers.live.SettleRun} carries steps out, {@link
 * fiador.servers.live.SecretRun} changes secrets, {@link fiador.servers.live.Preview} and {@link
 * fiador.servers.live.Trial} look without changing anything.
 */
package fiador.servers.live;
