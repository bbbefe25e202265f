package fiador.servers.mariadb;

import fiador.grants.AccountName;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Sql;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.SecretSql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * Secrets of accounts. An account has a list of ways to prove who it is, of which each is enough;
 * two secrets side by side are two of them, the newer one first.
 */
final class MariadbSecrets implements SecretSql {
  /** Ways with a secret; what else there is is not Fiador's to replace. */
  private static final Set<String> WITH_SECRET =
      Set.of("", "mysql_native_password", "mysql_old_password", "ed25519");

  /** As many ways as are looked at; nobody has as many. */
  private static final int MOST = 8;

  private static final String FIRST =
      """
      select coalesce(json_value(Priv, '$.plugin'), '') as plugin,
             coalesce(json_value(Priv, '$.authentication_string'), '') as kept,
             coalesce(json_length(Priv, '$.auth_or'), 0) as ways
        from mysql.global_priv where User = ? and Host = ?
      """;

  private static final String OTHER =
      """
      select json_value(Priv, ?) as plugin, coalesce(json_value(Priv, ?), '') as kept
        from mysql.global_priv where User = ? and Host = ?
      """;

  private final UnaryOperator<String> quoted;

  /**
   * @param quoted an account's name in SQL
   */
  MariadbSecrets(UnaryOperator<String> quoted) {
    this.quoted = quoted;
  }

  /** A way to prove who one is, and what the server keeps for it. */
  private record Way(String plugin, String kept) {
    boolean isSecret() {
      return WITH_SECRET.contains(plugin);
    }

    String sql() {
      String name = plugin.isEmpty() ? "mysql_native_password" : plugin;
      return name + " USING '" + kept.replace("'", "''") + "'";
    }
  }

  @Override
  public String shown(String user) {
    return altered(user, Dialect.HIDDEN);
  }

  private String altered(String user, String ways) {
    return "ALTER USER " + quoted.apply(user) + " IDENTIFIED VIA " + ways;
  }

  @Override
  public String replacing(Connection connection, String user, char[] secret) throws SQLException {
    return altered(user, SecretHash.of(connection, secret));
  }

  @Override
  public List<String> otherProofs(Connection connection, String user) throws SQLException {
    return ways(connection, user).stream().filter(way -> !way.isSecret()).map(Way::plugin).toList();
  }

  @Override
  public boolean keepsTwo() {
    return true;
  }

  @Override
  public String beside(Connection connection, String user, char[] secret)
      throws ServerException, SQLException {
    Way newest = newest(connection, user);
    return altered(user, SecretHash.of(connection, secret) + " OR " + newest.sql());
  }

  @Override
  public String newestAlone(Connection connection, String user)
      throws ServerException, SQLException {
    Way newest = newest(connection, user);
    if (ways(connection, user).size() < 2) {
      throw new ServerException(user + " has one secret, and no older one to drop", null);
    }
    return altered(user, newest.sql());
  }

  private Way newest(Connection connection, String user) throws ServerException, SQLException {
    return ways(connection, user).stream()
        .filter(way -> way.isSecret() && !way.kept().isEmpty())
        .findFirst()
        .orElseThrow(() -> new ServerException(user + " has no secret to keep", null));
  }

  /** In the order in which the server tries them; the first stands apart, and has a gap there. */
  private static List<Way> ways(Connection connection, String user) throws SQLException {
    AccountName account = AccountName.of(user);
    List<Way> found = new ArrayList<>();
    int[] others = new int[1];
    Sql.rows(
        connection,
        FIRST,
        row -> {
          found.add(new Way(row.getString("plugin"), row.getString("kept")));
          others[0] = row.getInt("ways");
        },
        account.user(),
        account.host());
    Way first = found.isEmpty() ? null : found.get(0);
    if (others[0] > 0) {
      found.clear();
    }
    for (int at = 0; at < Math.min(others[0], MOST); at++) {
      String way = "$.auth_or[" + at + "].";
      Sql.rows(
          connection,
          OTHER,
          row -> {
            String plugin = row.getString("plugin");
            found.add(plugin == null ? first : new Way(plugin, row.getString("kept")));
          },
          way + "plugin",
          way + "authentication_string",
          account.user(),
          account.host());
    }
    return found;
  }
}
