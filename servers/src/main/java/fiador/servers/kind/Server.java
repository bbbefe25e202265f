package fiador.servers.kind;

import fiador.grants.Access;
import fiador.grants.Sights.Doubt;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Sql;
import fiador.servers.jdbc.Times;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** A kind of server. Implementations keep no state; every call brings its own login. */
public interface Server {
  /** The kind, as a charter names it. */
  String kind();

  /** The start of the JDBC URLs of this kind. */
  String urlPrefix();

  /**
   * Reads everything the model knows.
   *
   * @param name what the survey is to call the server
   * @param databases the databases to look into; empty for all
   * @param notes told what could not be looked at, one sentence each
   */
  Access survey(
      Login login, String name, List<String> databases, Instant now, Consumer<String> notes)
      throws ServerException;

  /**
   * A connection for statements.
   *
   * @param database which database, where the kind has several; null for the one of the URL
   */
  Connection connect(Login login, String database) throws ServerException;

  /**
   * What tells this server from others, wherever it is reached; empty where it does not say.
   *
   * @throws ServerException when the server cannot be reached
   */
  default String identity(Login login) throws ServerException {
    try (Connection connection = connect(login, null)) {
      return identity(connection);
    } catch (SQLException closing) {
      return "";
    }
  }

  /** The same, over a connection that is there; in a transaction, a refusal would end that. */
  default String identity(Connection connection) {
    try {
      StringBuilder found = new StringBuilder();
      Sql.rows(connection, identityQuery(), row -> found.append(row.getString(1)));
      return found.toString();
    } catch (SQLException notTold) {
      return "";
    }
  }

  /** The query for it: one row, one text. */
  String identityQuery();

  /**
   * Whether the guarded schema of a connection's database is Fiador's own.
   *
   * @return why nothing in it is believed; empty when it is, and when there is none
   */
  Optional<Doubt> guardDoubt(Connection connection, Login login) throws SQLException;

  /**
   * What of others' making would run if a table or view were touched. Where the server can, it is
   * kept as it is until the transaction ends.
   *
   * @param writing whether the statement would write
   * @return the reasons not to touch it; empty when that is harmless
   */
  List<String> hiddenCode(Connection connection, String schema, String name, boolean writing)
      throws SQLException;

  /** How its driver gives times. */
  default Times times() {
    return Times.AS_TEXT;
  }

  /** Writes this kind's SQL. */
  Dialect dialect();
}
