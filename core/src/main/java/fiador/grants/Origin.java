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
 * @param supposed whether something is supposed that is not so
 * @param identity what tells the server from others, wherever it is reached; empty where that is
 *     not known
 */
public record Origin(
    String server,
    String kind,
    String version,
    Instant taken,
    boolean recalled,
    boolean supposed,
    String identity) {
  /** What is known best of now, of a server that says nothing of which one it is. */
  public Origin(String server, String kind, String version, Instant taken) {
    this(server, kind, version, taken, false, false, "");
  }

  /** What is known best of now. */
  public Origin(String server, String kind, String version, Instant taken, String identity) {
    this(server, kind, version, taken, false, false, identity);
  }

  /** The same, asked for as what it was then. */
  public Origin recall() {
    return new Origin(server, kind, version, taken, true, supposed, identity);
  }

  /** The same, as if something were so that is not. */
  public Origin suppose() {
    return new Origin(server, kind, version, taken, recalled, true, identity);
  }
}
