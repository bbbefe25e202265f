package fiador.files.charter;

import fiador.changes.Wanted;
import fiador.changes.Wanted.Place;
import fiador.effects.Proof;
import fiador.reviews.Expected;
import java.util.List;
import java.util.Map;

/**
 * A charter, checked.
 *
 * @param estate what the estate is called
 * @param servers the servers by name, in the order they stand there
 * @param wanted what it demands
 * @param proofs sentences that must hold, with their places
 * @param expected what it says to reviews
 */
public record Charter(
    String estate,
    Map<String, ServerEntry> servers,
    Wanted wanted,
    List<Sentence> proofs,
    Expected expected) {

  /** A proof as written. */
  public record Sentence(String text, Proof proof, Place place) {}

  /**
   * How to reach a server.
   *
   * @param name what the charter calls it
   * @param kind the kind of server
   * @param url its address; {@code ${NAME}} is already replaced, relative files are under the
   *     charter's folder
   * @param login the account to use
   * @param password its secret, from the environment; may be empty
   * @param place where the charter says so
   */
  public record ServerEntry(
      String name, String kind, String url, String login, String password, Place place) {
    /** Without the secret. */
    @Override
    public String toString() {
      return name + " (" + kind + ", " + url + ")";
    }
  }
}
