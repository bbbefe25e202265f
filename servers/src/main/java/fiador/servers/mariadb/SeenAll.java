package fiador.servers.mariadb;

import fiador.estate.NodeFact;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Set;
import java.util.function.Consumer;
import java.util.regex.Pattern;

/**
 * The catalog shows a login only what it has some right on. One without a right on the whole server
 * may read all grants and not see what they are on; then they would be taken for grants on nothing.
 */
final class SeenAll {
  private static final Pattern EVERYTHING =
      Pattern.compile("GRANT (ALL PRIVILEGES|(.*, )?SELECT(, .*)?) ON \\*\\.\\* TO .*");

  private static final int NAMED = 3;

  private SeenAll() {}

  /** Says what was not seen, and marks the schemas of which something is missing. */
  static void check(Connection connection, Catalog catalog, Consumer<String> notes)
      throws SQLException {
    boolean[] all = new boolean[1];
    Sql.rows(
        connection, "show grants", row -> all[0] |= EVERYTHING.matcher(row.getString(1)).matches());
    if (all[0]) {
      return;
    }
    // what else there is that nobody was granted anything on by name, nobody can tell
    catalog.estate().fact(0, NodeFact.UNREAD);
    Set<String> unseen = catalog.unseen();
    for (String path : unseen) {
      int schema = catalog.node(path.substring(0, path.indexOf('.')));
      if (schema >= 0) {
        catalog.estate().fact(schema, NodeFact.UNREAD);
      }
    }
    String named = String.join(", ", unseen.stream().limit(NAMED).toList());
    notes.accept(
        "the survey is not complete: the login has no right to select on the whole server, and is"
            + " shown only what it has some right on"
            + (unseen.isEmpty()
                ? ""
                : "; grants speak of "
                    + named
                    + (unseen.size() > NAMED ? " and " + (unseen.size() - NAMED) + " more" : "")
                    + ", which it does not see")
            + ". GRANT SELECT, SHOW VIEW ON *.* to it");
  }
}
