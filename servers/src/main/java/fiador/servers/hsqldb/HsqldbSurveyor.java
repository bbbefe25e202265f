package fiador.servers.hsqldb;

import fiador.estate.Account;
import fiador.estate.ColumnType;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Secret;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Sights.Doubt;
import fiador.grants.Terms;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HsqldbRules;
import fiador.servers.jdbc.Sql;
import fiador.servers.kind.GuardReader;
import fiador.sqltext.SqlReader;
import fiador.sqltext.lineage.LineageCollector;
import fiador.sqltext.lineage.Relations;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;

/** Reads one HSQLDB database. */
final class HsqldbSurveyor {
  private static final String GUARD = "FIADOR_GUARD";

  /** All roles of a user are always on; there is nothing to switch. */
  private static final Membership ALWAYS_ON = Membership.of(false, true, false);

  private record Key(String schema, String name) {}

  private final AccessBuilder builder = new AccessBuilder();
  private final EstateBuilder estate = builder.estate();
  private final HouseRules rules = HsqldbRules.rules();
  private final Map<String, Integer> principals = new HashMap<>();
  private final Map<String, Integer> schemas = new HashMap<>();
  private final Map<Key, Integer> relations = new HashMap<>();
  private final Map<Key, Integer> routines = new HashMap<>();
  private final Map<Key, List<String>> columns = new HashMap<>();
  private final Map<Key, List<ColumnType>> types = new HashMap<>();
  private final List<String> users = new ArrayList<>();
  private final Map<String, List<String>> rolesOf = new HashMap<>();
  private final Set<String> withoutSecret = new HashSet<>();

  HsqldbSurveyor() {
    principals.put("PUBLIC", Principals.PUBLIC);
  }

  AccessBuilder builder() {
    return builder;
  }

  /**
   * Users whose sessions together are told of everything that was given to anybody: those who were
   * given something themselves, and for each role left one who holds it.
   */
  List<String> witnesses(List<GrantScript.Statement> grants) {
    Set<String> unseen = new HashSet<>();
    grants.forEach(grant -> unseen.add(grant.grantee()));
    List<String> found = new ArrayList<>();
    for (boolean own : new boolean[] {true, false}) {
      for (String user : users) {
        Set<String> held = held(user);
        // an administrator's session is not told of all their roles
        boolean admin = held.contains("DBA");
        boolean asked = own ? unseen.contains(user) : held.stream().anyMatch(unseen::contains);
        if (asked && !found.contains(user)) {
          found.add(user);
        }
        if (asked) {
          unseen.removeAll(admin ? Set.of(user) : held);
        }
      }
    }
    return found;
  }

  private Set<String> held(String user) {
    List<String> open = new ArrayList<>(List.of(user));
    Set<String> held = new HashSet<>(open);
    for (int at = 0; at < open.size(); at++) {
      for (String role : rolesOf.getOrDefault(open.get(at), List.of())) {
        if (held.add(role)) {
          open.add(role);
        }
      }
    }
    return held;
  }

  /** Reads things and people, and the script's lines that grant something. */
  List<GrantScript.Statement> read(Connection connection, String serverName, Consumer<String> notes)
      throws SQLException {
    Sql.rows(connection, HsqldbQueries.WITHOUT_SECRET, row -> withoutSecret.add(row.getString(1)));
    Sql.rows(connection, HsqldbQueries.PRINCIPALS, this::principal);
    Sql.rows(connection, HsqldbQueries.MEMBERSHIPS, this::membership);
    estate.node(None.NODE, NodeKind.SERVER, serverName, None.PRINCIPAL);
    Sql.rows(connection, HsqldbQueries.SCHEMAS, this::schema);
    Sql.rows(
        connection,
        HsqldbQueries.COLUMNS,
        row -> {
          Key key = new Key(row.getString(1), row.getString(2));
          columns.computeIfAbsent(key, fresh -> new ArrayList<>()).add(row.getString(3));
          types.computeIfAbsent(key, fresh -> new ArrayList<>()).add(type(row.getString(4)));
        });
    Sql.rows(connection, HsqldbQueries.TABLES, this::table);
    new FillReader(builder.sights(), (schema, name) -> relations.get(new Key(schema, name)))
        .read(connection);
    new TextTableReader(builder.abroad(), (schema, name) -> relations.get(new Key(schema, name)))
        .read(connection);
    Sql.rows(connection, HsqldbQueries.SEQUENCES, this::sequence);
    readRoutines(connection);
    readViews(connection);
    Sql.rows(connection, HsqldbQueries.EVERYBODYS_OWN, this::everybodysOwn);
    boolean kept =
        relations.containsKey(new Key(GUARD, "KEPT"))
            && relations.containsKey(new Key(GUARD, "ATTRIBUTES"));
    Optional<Doubt> doubt = GuardCheck.of(connection);
    if (doubt.isPresent()) {
      builder.sights().doubt(0, doubt.get());
      String why = String.join("; ", doubt.get().why());
      notes.accept("nothing in FIADOR_GUARD is believed: " + why);
    } else if (kept) {
      builder.sights().guard(0, schemas.get(GUARD));
      new GuardReader(
              builder,
              0,
              (schema, name) -> relations.getOrDefault(new Key(schema, name), None.NODE))
          .read(connection, HsqldbQueries.KEPT);
    }
    List<GrantScript.Statement> grants = new ArrayList<>();
    Sql.rows(
        connection,
        "script",
        row -> {
          GrantScript.Statement statement = GrantScript.read(row.getString(1));
          if (statement != null && statement.object().size() == 2) {
            grants.add(statement);
          }
        });
    return grants;
  }

  private void principal(ResultSet row) throws SQLException {
    boolean user = "USER".equals(row.getString(2));
    String name = row.getString(1);
    int power = name.equals("DBA") ? Power.SUPERUSER.bit() : 0;
    int id =
        estate.principal(user ? PrincipalKind.USER : PrincipalKind.ROLE, name, power, None.NODE);
    principals.put(name, id);
    if (user) {
      users.add(name);
      Secret secret = withoutSecret.contains(name) ? Secret.NONE : Secret.UNKNOWN;
      estate.account(id, new Account(false, null, null, false, secret));
    }
  }

  private void membership(ResultSet row) throws SQLException {
    Integer member = principals.get(row.getString(1));
    Integer role = principals.get(row.getString(2));
    if (member != null && role != null) {
      builder.member(member, role, ALWAYS_ON, None.PRINCIPAL);
      rolesOf.computeIfAbsent(row.getString(1), fresh -> new ArrayList<>()).add(row.getString(2));
    }
  }

  private void schema(ResultSet row) throws SQLException {
    String name = row.getString(1);
    int owner = principals.getOrDefault(row.getString(2), None.PRINCIPAL);
    int node = estate.node(0, NodeKind.SCHEMA, name, owner);
    schemas.put(name, node);
    if (name.equals("INFORMATION_SCHEMA") || name.equals("SYSTEM_LOBS") || name.equals(GUARD)) {
      estate.fact(node, NodeFact.SYSTEM);
    }
  }

  private void table(ResultSet row) throws SQLException {
    Key key = new Key(row.getString(1), row.getString(2));
    NodeKind kind = "VIEW".equals(row.getString(3)) ? NodeKind.VIEW : NodeKind.TABLE;
    relations.put(key, estate.node(schemas.get(key.schema()), kind, key.name(), None.PRINCIPAL));
    List<String> names = columns.getOrDefault(key, List.of());
    for (int i = 0; i < names.size(); i++) {
      estate.column(names.get(i));
      if (!estate.is(schemas.get(key.schema()), NodeFact.SYSTEM)) {
        estate.type(types.get(key).get(i));
      }
    }
  }

  private static ColumnType type(String name) {
    return switch (name) {
      case "CHARACTER VARYING" -> ColumnType.TEXT;
      case "CHARACTER" -> ColumnType.PADDED;
      case "TINYINT", "SMALLINT", "INTEGER", "BIGINT" -> ColumnType.INTEGER;
      case "DECIMAL", "NUMERIC" -> ColumnType.DECIMAL;
      case "DOUBLE PRECISION", "REAL", "FLOAT" -> ColumnType.FLOAT;
      case "DATE" -> ColumnType.DATE;
      case "TIMESTAMP" -> ColumnType.TIMESTAMP;
      case "BOOLEAN" -> ColumnType.BOOLEAN;
      default -> ColumnType.OTHER;
    };
  }

  private void sequence(ResultSet row) throws SQLException {
    Key key = new Key(row.getString(1), row.getString(2));
    int node =
        estate.node(schemas.get(key.schema()), NodeKind.SEQUENCE, key.name(), None.PRINCIPAL);
    relations.put(key, node);
  }

  private void readRoutines(Connection connection) throws SQLException {
    record Routine(String name, boolean invoker, List<String> types) {}
    Map<Key, Routine> found = new LinkedHashMap<>();
    Sql.rows(
        connection,
        HsqldbQueries.ROUTINES,
        row -> {
          Key key = new Key(row.getString(1), row.getString(3));
          String name = row.getString(2);
          boolean invoker = "INVOKER".equals(row.getString(4));
          Routine routine =
              found.computeIfAbsent(key, fresh -> new Routine(name, invoker, new ArrayList<>()));
          if (row.getString(5) != null) {
            routine.types().add(row.getString(5));
          }
        });
    found.forEach(
        (key, routine) -> {
          Integer schema = schemas.get(key.schema());
          if (schema != null) {
            String name = routine.name() + "(" + String.join(", ", routine.types()) + ")";
            int node = estate.node(schema, NodeKind.ROUTINE, name, None.PRINCIPAL);
            routines.put(key, node);
            if (routine.invoker()) {
              estate.fact(node, NodeFact.INVOKER);
            }
          }
        });
  }

  private record Reading(int view, int under) {}

  private void readViews(Connection connection) throws SQLException {
    readings(connection, HsqldbQueries.READS, relations);
    readings(connection, HsqldbQueries.ROUTINES_READ, routines);
    Relations named =
        new Relations() {
          @Override
          public int node(String schema, String name) {
            return schema == null
                ? None.NODE
                : relations.getOrDefault(new Key(schema, name), None.NODE);
          }

          @Override
          public List<String> columns(int node) {
            return estate.columnNames(node);
          }
        };
    LineageCollector lineage = new LineageCollector(builder, named, new SqlReader(rules));
    Sql.rows(
        connection,
        HsqldbQueries.QUERIES,
        row -> {
          Integer view = relations.get(new Key(row.getString(1), row.getString(2)));
          if (view != null && row.getString(3) != null) {
            lineage.view(view, row.getString(3));
          }
        });
  }

  private void readings(Connection connection, String query, Map<Key, Integer> readers)
      throws SQLException {
    Map<Reading, IntArrayList> readings = new LinkedHashMap<>();
    Sql.rows(
        connection,
        query,
        row -> {
          Integer view = readers.get(new Key(row.getString(1), row.getString(2)));
          Key underKey = new Key(row.getString(3), row.getString(4));
          Integer under = relations.get(underKey);
          int ordinal = columns.getOrDefault(underKey, List.of()).indexOf(row.getString(5));
          if (view != null && under != null && ordinal >= 0) {
            readings
                .computeIfAbsent(new Reading(view, under), r -> new IntArrayList())
                .add(ordinal);
          }
        });
    readings.forEach(
        (reading, read) ->
            builder.reads(
                reading.view(), reading.under(), builder.columnSets().intern(read.toIntArray())));
  }

  private void everybodysOwn(ResultSet row) throws SQLException {
    Integer node = relations.get(new Key(row.getString(1), row.getString(2)));
    Privilege privilege = Privilege.named(row.getString(3));
    if (node != null && privilege != null) {
      Terms terms = Terms.of(privilege.bit(), 0);
      builder.grant(Principals.PUBLIC, node, terms, ColumnSets.WHOLE, None.PRINCIPAL);
    }
  }

  /** Adds the grants of the script with what is known of their grant options. */
  void addGrants(List<GrantScript.Statement> statements, GrantOptions options) {
    for (GrantScript.Statement statement : statements) {
      Key key = new Key(statement.object().get(0), statement.object().get(1));
      boolean routine = statement.kind().startsWith("SPECIFIC");
      Integer node = (routine ? routines : relations).get(key);
      Integer grantee = principals.get(statement.grantee());
      if (node == null || grantee == null) {
        continue;
      }
      for (GrantScript.Action action : statement.actions()) {
        long all = rules.privilegesOn(estate.kind(node));
        Privilege named = Privilege.named(action.name());
        long bits = action.name().equals("all") ? all : named == null ? 0 : named.bit() & all;
        for (long rest = bits; rest != 0; rest &= rest - 1) {
          addGrant(node, key, statement.grantee(), Privilege.lowest(rest), action, options);
        }
      }
    }
  }

  private void addGrant(
      int node,
      Key key,
      String grantee,
      Privilege privilege,
      GrantScript.Action action,
      GrantOptions options) {
    String what = privilege.text().toUpperCase(Locale.ROOT);
    long bit = privilege.bit();
    int to = principals.get(grantee);
    List<String> all = columns.getOrDefault(key, List.of());
    List<String> granted = action.columns().isEmpty() ? all : action.columns();
    IntArrayList plain = new IntArrayList();
    IntArrayList grantable = new IntArrayList();
    for (String column : granted) {
      boolean may = options.onColumn(grantee, key.schema(), key.name(), column, what);
      (may ? grantable : plain).add(all.indexOf(column));
    }
    boolean byColumn = (rules.columnPrivileges() & bit) != 0 && !all.isEmpty();
    if (action.columns().isEmpty()) {
      boolean mayGrant =
          byColumn ? plain.isEmpty() : options.onWhole(grantee, key.schema(), key.name(), what);
      builder.grant(to, node, Terms.of(bit, mayGrant ? bit : 0), ColumnSets.WHOLE, None.PRINCIPAL);
      if (mayGrant || !byColumn) {
        return;
      }
    } else if (!plain.isEmpty()) {
      int set = builder.columnSets().intern(plain.toIntArray());
      builder.grant(to, node, Terms.of(bit, 0), set, None.PRINCIPAL);
    }
    if (!grantable.isEmpty()) {
      int set = builder.columnSets().intern(grantable.toIntArray());
      builder.grant(to, node, Terms.of(bit, bit), set, None.PRINCIPAL);
    }
  }
}
