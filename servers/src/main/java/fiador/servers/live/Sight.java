package fiador.servers.live;

import fiador.effects.Switch;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.LookupKey;
import fiador.grants.Sights;
import fiador.grants.Sights.Doubt;
import fiador.grants.rules.HouseFact;
import fiador.policies.SafeColumn;
import fiador.predicates.SessionFact;
import fiador.predicates.Subject;
import fiador.servers.jdbc.HiddenCodeException;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Sql;
import fiador.servers.jdbc.TableReader;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.StringJoiner;

/** Reads tables on a server: as the administrator, and as a user gets them. */
public final class Sight {
  private final Server server;
  private final Login login;
  private final Access access;
  private final Tree tree;

  /** On that server, with the things of that survey. */
  public Sight(Server server, Login login, Access access) {
    this.server = server;
    this.login = login;
    this.access = access;
    this.tree = access.tree();
  }

  private String database(int node) {
    int database = tree.enclosing(node, NodeKind.DATABASE);
    return database < 0 ? null : tree.name(database);
  }

  private String query(int node, List<SafeColumn> columns) {
    StringJoiner names = new StringJoiner(", ");
    columns.forEach(column -> names.add(server.dialect().quoted(column.name())));
    return "SELECT " + names + " FROM " + server.dialect().table(tree, node);
  }

  /** Reads a whole table as the administrator; columns as for {@link TableReader}. */
  public void read(int table, List<SafeColumn> columns, TableReader.Rows rows)
      throws ServerException {
    try (Connection connection = server.connect(login, database(table))) {
      server.dialect().beginReadOnly(connection);
      String code = hiddenCode(connection, table);
      if (code != null) {
        throw new HiddenCodeException(tree.path(table), code);
      }
      server.dialect().seeAllRows(connection);
      TableReader.read(connection, query(table, columns), columns, server.times(), rows);
      connection.rollback();
    } catch (SQLException broken) {
      throw new ServerException(
          "reading " + tree.path(table) + " failed: " + broken.getMessage(), broken);
    }
  }

  private String hiddenCode(Connection connection, int node) throws SQLException {
    List<String> code =
        server.hiddenCode(connection, tree.name(tree.parent(node)), tree.name(node), false);
    return code.isEmpty() ? null : code.get(0);
  }

  /**
   * Reads a table or view as a user, in a transaction that the server holds read-only.
   *
   * @param secret the user's own, where the server lets nobody act as somebody else; else null
   * @param first the switch that comes first; null for none
   * @return why it was not read, because what others made would run; null when it was
   * @throws ServerException also when the server refuses it
   */
  public String readAs(
      int user,
      String secret,
      Switch first,
      int node,
      List<SafeColumn> columns,
      TableReader.Rows rows)
      throws ServerException {
    String name = access.principals().name(user);
    String become = server.dialect().become(name);
    try (Connection own = server.connect(login, database(node));
        Connection others =
            become == null
                ? server.connect(login.as(access.bareName(user), secret), database(node))
                : null) {
      server.dialect().beginReadOnly(own);
      String code = hiddenCode(own, node);
      if (code != null) {
        return code;
      }
      Connection connection = own;
      if (become == null) {
        connection = others;
        server.dialect().beginReadOnly(connection);
      } else {
        try (Statement statement = own.createStatement()) {
          statement.execute(become);
        }
      }
      if (first != null) {
        try (Statement statement = connection.createStatement()) {
          statement.execute(server.dialect().sql(first));
        }
      }
      TableReader.read(connection, query(node, columns), columns, server.times(), rows);
      connection.rollback();
      return null;
    } catch (SQLException refused) {
      throw new ServerException(
          "the server refused " + name + " on " + tree.path(node) + ": " + refused.getMessage(),
          refused);
    }
  }

  /** Whether somebody can act as a user here without that user's secret. */
  public boolean canAct() {
    return server.dialect().become("x") != null;
  }

  /** What the lookup tables say of a user as policies find it, by their names. */
  public Map<String, List<Object>> lookups(int database, Subject user) throws ServerException {
    Map<String, List<Object>> found = new HashMap<>();
    for (Sights.LookupTable lookup : access.sights().lookups()) {
      if (lookup.database() != database) {
        continue;
      }
      int key = tree.columnNamed(lookup.table(), lookup.key());
      int value = tree.columnNamed(lookup.table(), lookup.value());
      List<SafeColumn> columns =
          List.of(
              new SafeColumn(lookup.key(), tree.columnType(lookup.table(), key)),
              new SafeColumn(lookup.value(), tree.columnType(lookup.table(), value)));
      List<Object> values = new ArrayList<>();
      read(
          lookup.table(),
          columns,
          row -> {
            if (isKey(lookup.keys(), row[0], user)) {
              values.add(row[1]);
            }
            return true;
          });
      found.put(lookup.name(), values);
    }
    return found;
  }

  private boolean isKey(LookupKey keys, Object key, Subject user) {
    if (!(key instanceof String text)) {
      return false;
    } else if (keys.namesUsers()) {
      return text.equals(user.name());
    } else if (!keys.namesRoles()) {
      return user.attribute(keys.attribute()).contains(text);
    }
    int role = access.principals().named(text);
    boolean counts =
        role >= 0
            && (access.rules().has(HouseFact.USERS_ARE_ROLES) || !access.principals().isUser(role));
    return counts && user.holds(text);
  }

  /**
   * What the server says of the sessions that are opened here.
   *
   * @param node what they are to read
   */
  public Map<SessionFact, String> session(int node) throws ServerException {
    Map<SessionFact, String> found = new EnumMap<>(SessionFact.class);
    try (Connection connection = server.connect(login, database(node))) {
      Sql.rows(
          connection,
          server.dialect().policies().sessionQuery(),
          row -> {
            for (SessionFact fact : SessionFact.values()) {
              found.put(fact, row.getString(fact.ordinal() + 1));
            }
          });
    } catch (SQLException broken) {
      throw new ServerException(
          "what the server knows of this session cannot be read: " + broken.getMessage(), broken);
    }
    return found;
  }

  /** The key of digests; null where the server has none. */
  public byte[] digestKey(int node) throws ServerException {
    int guard =
        access
            .sights()
            .guards()
            .getOrDefault(Math.max(0, tree.enclosing(node, NodeKind.DATABASE)), -1);
    int table = guard < 0 ? -1 : tree.child(guard, "digest_key", any -> true);
    if (table < 0) {
      return null;
    }
    byte[][] key = new byte[1][];
    try (Connection connection = server.connect(login, database(node))) {
      Optional<Doubt> doubt = server.guardDoubt(connection, login);
      if (doubt.isPresent()) {
        throw new ServerException(
            "the key of digests is not believed: " + String.join("; ", doubt.get().why()), null);
      }
      Sql.rows(
          connection, "select value from fiador_guard.digest_key", row -> key[0] = row.getBytes(1));
    } catch (SQLException broken) {
      throw new ServerException(
          "the key of digests cannot be read: " + broken.getMessage(), broken);
    }
    return key[0];
  }
}
