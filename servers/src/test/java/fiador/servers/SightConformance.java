package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.CreateRole;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.policies.ActingMask;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Evaluation;
import fiador.predicates.InSession;
import fiador.predicates.SessionFact;
import fiador.predicates.Subject;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Sql;
import fiador.servers.jdbc.TableReader;
import fiador.servers.kind.Server;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;

/**
 * Puts random policies on a real server and compares what every user gets with what the core makes
 * of the same rows.
 */
public final class SightConformance {
  private static final int USERS = 5;

  final Server server;
  private final Connection admin;
  final RandomSight source;
  final Naming naming;
  final List<Person> people = new ArrayList<>();
  int cases;

  /** What is different from server to server, beyond what its dialect knows. */
  public interface Naming {
    /** A name of a schema, table, role or user as the server stores it. */
    String stored(String name);

    /** A user or role as the member of a role. */
    default String member(String name) {
      return stored(name);
    }

    /** Whether the server masks values in tables itself, and keeps what policies need. */
    default boolean veils() {
      return false;
    }

    /** The statement that gives a role, with names in SQL. */
    default String give(String role, String member) {
      return "GRANT " + role + " TO " + member;
    }

    /** The statement that makes a user without privileges. */
    String makeUser(String name);

    /** The statements that let a user read a table or view of the test's schema. */
    List<String> letRead(String object);

    /** A session of a user. */
    Connection session(String user) throws SQLException, ServerException;

    /** The types of the columns, in the order of {@link RandomSight}. */
    List<String> types();

    /** The database's name where the server has that level, else null. */
    String database();
  }

  record Person(String name, Map<String, List<String>> attributes, Set<String> roles)
      implements Subject {
    @Override
    public List<String> attribute(String attribute) {
      return attributes.getOrDefault(attribute, List.of());
    }

    @Override
    public boolean holds(String role) {
      return roles.contains(role);
    }

    @Override
    public String session(SessionFact fact) {
      return fact == SessionFact.APPLICATION ? "trial" : "127.0.0.1";
    }

    @Override
    public List<Object> lookup(String lookup) {
      return null;
    }
  }

  /** A run; the booleans as for {@link RandomSight}. */
  public SightConformance(
      Server server,
      Connection admin,
      Naming naming,
      long seed,
      boolean booleans,
      boolean ordersTexts,
      boolean digests,
      boolean quotes) {
    this.server = server;
    this.admin = admin;
    this.naming = naming;
    this.source = new RandomSight(new Random(seed), booleans, ordersTexts, digests, quotes);
    if (naming.veils()) {
      source.noBackslashes();
    }
  }

  /** Predicates ask about sessions, too: the application is trial, the address 127.0.0.1. */
  public SightConformance askingSessions() {
    source.askSessions();
    return this;
  }

  /** How many pairs of a user and a table were compared. */
  public int cases() {
    return cases;
  }

  /** Makes users, roles and attributes. */
  public void people() throws SQLException {
    if (!naming.veils()) {
      run(new Guard(naming.database(), true));
    }
    for (String role : RandomSight.ROLES) {
      run(new CreateRole(naming.stored(role)));
    }
    boolean[][] nested = new boolean[RandomSight.ROLES.size()][RandomSight.ROLES.size()];
    for (int i = 0; i < nested.length; i++) {
      for (int j = i + 1; j < nested.length; j++) {
        nested[i][j] = source.random.nextInt(3) == 0;
        if (nested[i][j]) {
          give(RandomSight.ROLES.get(j), RandomSight.ROLES.get(i));
        }
      }
    }
    for (int u = 0; u < USERS; u++) {
      String name = "u" + u;
      execute(naming.makeUser(naming.stored(name)));
      Set<String> held = new HashSet<>();
      for (int i = 0; i < nested.length; i++) {
        if (source.random.nextInt(3) == 0) {
          give(RandomSight.ROLES.get(i), name);
          reach(i, nested, held);
        }
      }
      Map<String, List<String>> attributes = new TreeMap<>(source.attributes());
      attributes.forEach((key, values) -> attribute(name, key, values));
      attribute(name, "name", List.of(name));
      people.add(new Person(name, attributes, held));
    }
  }

  private void reach(int role, boolean[][] nested, Set<String> held) {
    held.add(RandomSight.ROLES.get(role));
    for (int j = role + 1; j < nested.length; j++) {
      if (nested[role][j]) {
        reach(j, nested, held);
      }
    }
  }

  private void give(String role, String member) throws SQLException {
    execute(
        naming.give(
            server.dialect().principal(naming.stored(role)),
            server.dialect().principal(naming.member(member))));
  }

  private void attribute(String user, String key, List<String> values) {
    try {
      run(new SetAttribute(naming.database(), naming.stored(user), key, List.of(), values));
    } catch (SQLException refused) {
      throw new IllegalStateException(refused);
    }
  }

  /** One table with policies, and every user's view of it. */
  public void table(String schema, int number, boolean natively) throws Exception {
    On table = on(schema, NodeKind.TABLE, "t" + number);
    List<Object[]> rows = fill(table);
    TableSight random = source.sight();
    boolean rowsOnly = natively && !naming.veils();
    TableSight sight = rowsOnly ? new TableSight(random.rows(), List.of()) : random;
    TableSight stored = storedRoles(sight);
    On read = natively ? table : on(schema, NodeKind.VIEW, "v" + number);
    Step step =
        natively
            ? new FilterRows(table, source.columns, "", SightText.of(stored))
            : new ShowSafely(
                null, new SafeView(read, table, source.columns, SightText.of(stored), false, null));
    if (!natively || !stored.isOpen()) {
      run(step);
    }
    for (String sql : naming.letRead(path(read))) {
      execute(sql);
    }
    for (Person person : people) {
      compare(person, sight, rows, read, step);
    }
  }

  /** One table whose policies bind who writes, and what every user can add and change there. */
  public void writing(String schema, int number) throws Exception {
    new WritingConformance(this).table(schema, number);
  }

  TableSight storedRoles(TableSight sight) {
    // roles stand in policies as the server stores them
    String text = SightText.of(sight);
    for (String role : RandomSight.ROLES) {
      text = text.replace("holds(" + role + ")", "holds(" + naming.stored(role) + ")");
    }
    return SightText.read(text, source.columns);
  }

  private void compare(Person person, TableSight sight, List<Object[]> rows, On read, Step step)
      throws Exception {
    TableSight.Seen seen = sight.by(person);
    Evaluation evaluation = new Evaluation(person);
    // what is left to be asked where nothing is known of the session comes to the same in it
    TableSight.Seen blind = sight.by(new InSession(person, Map.of()));
    List<String> simulated = new ArrayList<>();
    byte[] key = digestKey();
    for (Object[] row : rows) {
      boolean shown = evaluation.shows(sight.condition(), row);
      assertThat(evaluation.shows(seen.condition(), row))
          .as("simplified %s of %s", seen.condition(), sight.condition())
          .isEqualTo(shown);
      assertThat(evaluation.shows(blind.condition(), row)).isEqualTo(shown);
      if (shown) {
        String masked = text(masked(row, seen, evaluation, key));
        assertThat(text(masked(row, blind, evaluation, key))).isEqualTo(masked);
        simulated.add(masked);
      }
    }
    List<String> live = new ArrayList<>();
    try (Connection session = naming.session(naming.stored(person.name()))) {
      TableReader.read(
          session,
          "SELECT * FROM " + path(read),
          source.columns,
          server.times(),
          row -> live.add(text(row)));
    }
    cases++;
    List<String> missing = without(simulated, live);
    List<String> surplus = without(live, simulated);
    assertThat(missing.isEmpty() && surplus.isEmpty())
        .as(
            "simulated only: %s\nlive only: %s\nof %s\n%s%s",
            missing, surplus, person, SightText.of(sight), server.dialect().sql(step))
        .isTrue();
  }

  private static List<String> without(List<String> some, List<String> others) {
    List<String> left = new ArrayList<>(some);
    others.forEach(left::remove);
    return left;
  }

  private Object[] masked(Object[] row, TableSight.Seen seen, Evaluation evaluation, byte[] key) {
    Object[] shown = row.clone();
    for (int i = 0; i < shown.length; i++) {
      for (ActingMask one : seen.masks().getOrDefault(source.columns.get(i).name(), List.of())) {
        if (!evaluation.shows(one.clear(), row)) {
          shown[i] = one.mask().mask().of(shown[i], key);
          break;
        }
      }
    }
    return shown;
  }

  private byte[] digestKey() throws SQLException {
    byte[][] found = new byte[1][];
    if (!server.kind().equals("hsqldb") && !naming.veils()) {
      Sql.rows(
          admin, "select value from fiador_guard.digest_key", row -> found[0] = row.getBytes(1));
    }
    return found[0];
  }

  static String text(Object[] row) {
    StringBuilder text = new StringBuilder();
    for (Object value : row) {
      boolean number = value instanceof BigDecimal;
      Object plain = number ? ((BigDecimal) value).stripTrailingZeros().toPlainString() : value;
      text.append('[').append(plain).append(']');
    }
    return text.toString();
  }

  List<Object[]> fill(On table) throws SQLException {
    StringBuilder columns = new StringBuilder();
    StringBuilder marks = new StringBuilder();
    for (int i = 0; i < source.columns.size(); i++) {
      columns
          .append(i == 0 ? "" : ", ")
          .append(server.dialect().quoted(source.columns.get(i).name()))
          .append(' ')
          .append(naming.types().get(i));
      marks.append(i == 0 ? "?" : ", ?");
    }
    execute("CREATE TABLE " + path(table) + " (" + columns + ")");
    List<Object[]> rows = new ArrayList<>();
    if (naming.veils()) {
      for (int n = 1 + source.random.nextInt(14); n > 0; n--) {
        execute("INSERT INTO " + path(table) + " VALUES (" + literals(source.row(n)) + ")");
      }
      TableReader.read(
          admin, "SELECT * FROM " + path(table), source.columns, server.times(), rows::add);
      return rows;
    }
    try (PreparedStatement insert =
        admin.prepareStatement("INSERT INTO " + path(table) + " VALUES (" + marks + ")")) {
      for (int n = 1 + source.random.nextInt(14); n > 0; n--) {
        Object[] row = source.row(n);
        set(insert, row);
        insert.executeUpdate();
      }
    }
    TableReader.read(
        admin, "SELECT * FROM " + path(table), source.columns, server.times(), rows::add);
    return rows;
  }

  private static String literals(Object[] row) {
    List<String> all = new ArrayList<>();
    for (Object value : row) {
      if (value == null || value instanceof BigDecimal || value instanceof Boolean) {
        all.add(String.valueOf(value).toUpperCase(java.util.Locale.ROOT));
      } else {
        String type = value instanceof java.time.LocalDate ? "DATE " : "";
        type = value instanceof java.time.LocalDateTime ? "TIMESTAMP " : type;
        String text = value.toString();
        // an instant at midnight has no seconds in its text
        text =
            type.startsWith("TIME")
                ? text.replace('T', ' ').replaceFirst("^(.{16})$", "$1:00")
                : text;
        all.add(type + "'" + text.replace("'", "''") + "'");
      }
    }
    return String.join(", ", all);
  }

  void set(PreparedStatement statement, Object[] row) throws SQLException {
    for (int i = 0; i < row.length; i++) {
      if (row[i] == null && source.columns.get(i).type().isText()) {
        statement.setNull(i + 1, Types.VARCHAR);
      } else {
        statement.setObject(i + 1, row[i]);
      }
    }
  }

  On on(String schema, NodeKind kind, String name) {
    List<String> parts = List.of(naming.stored(schema), naming.stored(name));
    return new On(kind, naming.database(), parts);
  }

  String path(On on) {
    String database = naming.veils() ? server.dialect().quoted(naming.database()) + "." : "";
    return database
        + server.dialect().quoted(on.parts().get(0))
        + "."
        + server.dialect().quoted(on.parts().get(1));
  }

  void run(Step step) throws SQLException {
    for (String sql : server.dialect().statements(step)) {
      execute(sql);
    }
  }

  void execute(String sql) throws SQLException {
    try (Statement statement = admin.createStatement()) {
      statement.execute(sql);
    } catch (SQLException refused) {
      throw new SQLException(refused.getMessage() + " in " + sql, refused);
    }
  }
}
