package fiador.servers;

import fiador.grants.Access;
import java.sql.Connection;
import java.time.Instant;
import java.util.List;
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

  /** Writes this kind's SQL. */
  Dialect dialect();
}
