package fiador.files.charter;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.OnServer;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.findings.check.Expected;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.houses.HouseSheet;
import fiador.proofs.Proof;
import java.util.List;
import java.util.Map;

/**
 * A charter, checked.
 *
 * @param estate what the estate is called
 * @param servers the servers by name, in the order they stand there
 * @param ledger where its history is kept
 * @param wanted what it demands
 * @param proofs sentences that must hold, with their places
 * @param expected what it says to reviews
 * @param reviewKeys the public parts of the keys that may sign evidence, by whose they are
 */
public record Charter(
    String estate,
    Map<String, ServerEntry> servers,
    LedgerEntry ledger,
    Wanted wanted,
    List<Sentence> proofs,
    Expected expected,
    Map<String, String> reviewKeys) {

  /**
   * The same for one server: users go by the accounts they have there, in all that it demands,
   * expects and proves. A server that is none of its own is asked by the names that stand there.
   */
  public Charter on(String server) {
    Accounts accounts = expected.accounts();
    if (accounts.of().isEmpty() || !servers.containsKey(server)) {
      return this;
    }
    OnServer there = new OnServer(server, accounts);
    return new Charter(
        estate,
        servers,
        ledger,
        there.wanted(wanted),
        proofs.stream()
            .map(one -> new Sentence(one.text(), one.proof().named(there::nameOrOwn), one.place()))
            .toList(),
        expected.on(there),
        reviewKeys);
  }

  /**
   * Where history is kept.
   *
   * @param url a file under the charter's folder, the address of a PostgreSQL, or {@link #NONE}
   * @param login the account there; empty for a file
   * @param password its secret; empty for a file
   */
  public record LedgerEntry(String url, String login, String password) {
    /** Nothing is kept. */
    public static final String NONE = "none";

    /** Where it is kept when the charter says nothing. */
    public static final LedgerEntry USUAL = new LedgerEntry(".fiador/ledger.db", "", "");

    /** Without the secret. */
    @Override
    public String toString() {
      return url;
    }
  }

  /** A proof as written. */
  public record Sentence(String text, Proof proof, Place place) {}

  /**
   * How a connection is protected, and how long anything may take.
   *
   * @param tls one of {@link #TLS}; empty where the charter says nothing
   * @param authority a file with trusted certificates; empty for the Java runtime's own
   * @param connectSeconds how long connecting may take; 0 for as usual, the others too
   * @param statementSeconds how long a statement may take
   * @param lockSeconds how long a statement waits for a lock
   */
  public record Line(
      String tls, String authority, int connectSeconds, int statementSeconds, int lockSeconds) {
    /** How much of the other side may be checked, the most first. */
    public static final List<String> TLS = List.of("verify-full", "verify-ca", "unverified", "off");
  }

  /**
   * How to reach a server.
   *
   * @param name what the charter calls it
   * @param kind the kind of server
   * @param house what is known of that kind, where a sheet describes it; else null
   * @param url its address; {@code ${NAME}} is already replaced, relative files are under the
   *     charter's folder
   * @param login the account to use
   * @param password its secret, from the environment; may be empty
   * @param line how the connection is protected and how long things may take
   * @param keeper whose guarded schema is believed; empty for the login
   * @param extracts the folder of the files its facts are read from; empty for a server that is
   *     asked itself
   * @param drivers the files its JDBC driver is in; none where the driver comes along
   * @param place where the charter says so
   */
  public record ServerEntry(
      String name,
      String kind,
      HouseSheet house,
      String url,
      String login,
      String password,
      Line line,
      String keeper,
      String extracts,
      List<String> drivers,
      Place place) {
    /**
     * How privileges are worked out there, as far as that is known of the kind; null where the kind
     * itself is not known.
     */
    public HouseRules rules() {
      return house == null ? KnownHouses.newest(kind) : house.rules();
    }

    /** Without the secret. */
    @Override
    public String toString() {
      return name + " (" + kind + ", " + url + ")";
    }
  }
}
