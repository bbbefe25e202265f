package fiador.grants;

import java.time.Instant;

/**
 * Where an {@link Access} comes from.
 *
 * @param server the server's name in the charter, or its address
 * @param kind the kind of server
 * @param version the server's version as it says itself
 * @param taken when it was read, or null when it comes from a charter alone
 */
public record Origin(String server, String kind, String version, Instant taken) {}
