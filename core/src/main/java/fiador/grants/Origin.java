package fiador.grants;

import java.time.Instant;

/**
 * Where an {@link Access} comes from.
 *
 * @param server the server's name in the charter, or its address
 * @param kind the kind of server
 * @param version the server's version as it says itself
 * @param taken when it was read, or null when it comes from a charter alone
 * @param recalled whether it was asked for as what it was then, not as what is known best of now
 */
public record Origin(String server, String kind, String version, Instant taken, boolean recalled) {
  /** What is known best of now. */
  public Origin(String server, String kind, String version, Instant taken) {
    this(server, kind, version, taken, false);
  }
}
