package fiador.servers.mariadb;

import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.IntPredicate;

/**
 * Builds a random estate on a MariaDB server: accounts, roles, objects and grants of every kind.
 */
public final class RandomMariadb {
  static final String SINK = "sink";

  private static final List<String> HOSTS =
      List.of(
          "127.0.0.1",
          "127.0.0.1",
          "%",
          "%",
          "127.%",
          "127.0.0._",
          "127.0.%",
          "127.0.0.0/255.255.255.0",
          "10.%");
  private static final List<String> SCHEMAS =
      List.of("app", "app_x", "appax", "Odd name", "we`ird", "uni_ködé", "other");
  private static final List<String> PATTERNS =
      List.of(
          "app",
          "app\\_x",
          "app_x",
          "appax",
          "app%",
          "a%x",
          "%",
          "app__",
          "_pp_x",
          "Odd%",
          "Odd name",
          "we`ird",
          "uni\\_ködé",
          "uni_%",
          "other",
          "o%",
          "%r",
          "%_x",
          "no_such");
  private static final List<String> ON_SCHEMA =
      List.of(
          "select",
          "insert",
          "update",
          "delete",
          "create",
          "drop",
          "alter",
          "index",
          "references",
          "create view",
          "show view",
          "trigger",
          "execute",
          "alter routine",
          "create routine",
          "create temporary tables",
          "lock tables",
          "event");
  private static final List<String> ON_TABLE =
      List.of(
          "select",
          "insert",
          "update",
          "delete",
          "create",
          "drop",
          "alter",
          "index",
          "references",
          "create view",
          "show view",
          "trigger");
  private static final List<String> ON_COLUMNS = List.of("select", "insert", "update");

  private final Statement sql;
  private final Random random;
  private final List<String> script = new ArrayList<>();
  private final IntPredicate kept;
  private int asked;
  final List<String> schemas = new ArrayList<>();
  final List<String> accounts = new ArrayList<>();
  final List<String> roles = new ArrayList<>();
  final List<String> relations = new ArrayList<>();
  final List<String> routines = new ArrayList<>();

  RandomMariadb(Connection admin, long seed) throws SQLException {
    this(admin, seed, statement -> true);
  }

  /** Of whose statements those are carried out that are kept, by number. */
  RandomMariadb(Connection admin, long seed, IntPredicate kept) throws SQLException {
    this.kept = kept;
    this.sql = admin.createStatement();
    this.random = new Random(seed);
  }

  static String name(String bare) {
    return '`' + bare.replace("`", "``") + '`';
  }

  private <T> T any(List<T> of) {
    return of.get(random.nextInt(of.size()));
  }

  private boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  /** Runs what may be refused for reasons that do not matter here. */
  private void attempt(String statement) {
    try {
      run(statement);
    } catch (SQLException refused) {
      // such as a role given in a circle or a revoke of nothing
    }
  }

  private void run(String statement) throws SQLException {
    if (kept.test(asked++)) {
      sql.execute(statement);
      script.add(statement + ";");
    }
  }

  /** How many statements there were, carried out or not. */
  int asked() {
    return asked;
  }

  /** The statements that made it. */
  List<String> script() {
    return script;
  }

  void build() throws SQLException {
    clear(sql);
    for (String schema : SCHEMAS) {
      if (chance(80)) {
        schemas.add(schema);
        run("create database " + name(schema));
      }
    }
    addPeople();
    for (String schema : schemas) {
      addObjects(schema);
    }
    int grants = 120 + random.nextInt(120);
    for (int i = 0; i < grants; i++) {
      grant();
    }
    for (String user : accounts) {
      if (chance(8) && !user.startsWith("''")) {
        attempt("drop user " + user);
      }
    }
    // memberships last: a grant to a role makes the server forget what that role has through roles
    // of its own, and reading its tables again loses some of it too
    addMemberships();
  }

  /** Takes away all but the administrator. */
  public static void clear(Login root) throws SQLException, ServerException {
    try (Connection admin = new MariadbServer().connect(root, null);
        Statement sql = admin.createStatement()) {
      sql.execute("drop database if exists fiador_guard");
      clear(sql);
    }
  }

  static void clear(Statement sql) throws SQLException {
    for (String schema : SCHEMAS) {
      sql.execute("drop database if exists " + name(schema));
    }
    for (String role : query(sql, "select Role from mysql.roles_mapping where User = 'PUBLIC'")) {
      sql.execute("revoke " + name(role) + " from public");
    }
    if (!query(sql, "select 1 from mysql.global_priv where User = 'PUBLIC'").isEmpty()) {
      sql.execute("revoke all privileges, grant option from public");
    }
    for (String statement :
        query(
            sql,
            "select if(json_value(Priv, '$.is_role') in ('1', 'true'),"
                + " concat('drop role `', replace(User, '`', '``'), '`'),"
                + " concat('drop user `', replace(User, '`', '``'), '`@`', Host, '`'))"
                + " from mysql.global_priv where User not in ('root', 'mariadb.sys', 'PUBLIC')")) {
      sql.execute(statement);
    }
    for (String table : List.of("db", "roles_mapping", "procs_priv")) {
      sql.execute("delete from mysql." + table);
    }
    sql.execute("delete from mysql.tables_priv where User <> 'mariadb.sys'");
    sql.execute("delete from mysql.columns_priv");
    sql.execute("flush privileges");
  }

  List<String> query(String query) throws SQLException {
    return query(sql, query);
  }

  private static List<String> query(Statement sql, String query) throws SQLException {
    List<String> found = new ArrayList<>();
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        found.add(rows.getString(1));
      }
    }
    return found;
  }

  private void addPeople() throws SQLException {
    for (int i = 0; i < 18; i++) {
      String user = i % 5 == 4 ? "Üser " + i : "u" + i;
      int hosts = 1 + random.nextInt(3);
      for (int h = 0; h < hosts; h++) {
        String account = name(user) + "@'" + any(HOSTS) + "'";
        if (!accounts.contains(account) && !isTie(account)) {
          accounts.add(account);
          run("create user " + account);
        }
      }
    }
    if (chance(40)) {
      accounts.add("''@'%'");
      run("create user ''@'%'");
    }
    for (int i = 0; i < 30; i++) {
      String role = i % 7 == 6 ? "Role `" + i : "r" + i;
      roles.add(name(role));
      run("create role " + name(role));
    }
    run("create role " + SINK);
  }

  /**
   * Whether the account is one address and there is one for its network, or the other way round:
   * between these two the server goes by the order in which they came, which nobody can read.
   */
  private boolean isTie(String account) {
    String other =
        account.endsWith("@'127.0.0.1'")
            ? account.replace("127.0.0.1'", "127.0.0.0/255.255.255.0'")
            : account.replace("127.0.0.0/255.255.255.0'", "127.0.0.1'");
    return accounts.contains(other);
  }

  private void addObjects(String schema) {
    String s = name(schema) + ".";
    List<String> tables = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      String table = s + (i == 2 ? name("t." + i) : "t" + i);
      attempt("create table " + table + " (a int, b int, `c d` int) engine=innodb");
      tables.add(table);
      relations.add(table);
    }
    attempt("create function " + s + "f(p int) returns int deterministic return p");
    attempt("create procedure " + s + "p() select 1");
    routines.add("function " + s + "f");
    routines.add("procedure " + s + "p");
    attempt("create sequence " + s + "seq");
    relations.add(s + "seq");
    for (int i = 0; i < 3; i++) {
      String view = s + "v" + i;
      String source = i == 0 || chance(50) ? any(tables) : any(relations);
      if (source.endsWith("seq")) {
        source = any(tables);
      }
      String columns = source.contains(".v") ? "*" : chance(50) ? "a, b" : chance(50) ? "a" : "*";
      String definer = chance(60) ? "" : "definer=" + any(chance(70) ? accounts : roles) + " ";
      if (definer.contains("''")) {
        definer = "";
      }
      String security = chance(30) ? "sql security invoker " : "";
      String call = chance(20) && !columns.equals("*") ? ", " + s + "f(1) as x" : "";
      attempt(
          "create "
              + definer
              + security
              + "view "
              + view
              + " as select "
              + columns
              + call
              + " from "
              + source);
      relations.add(view);
    }
    if (chance(50)) {
      attempt(
          "create definer="
              + any(accounts)
              + " function "
              + s
              + "g() returns int deterministic return 1");
      routines.add("function " + s + "g");
    }
  }

  private void addMemberships() {
    for (int i = 0; i < 30; i++) {
      attempt("grant " + any(roles) + " to " + any(roles));
    }
    Set<String> roleOfName = new HashSet<>();
    for (String account : accounts) {
      int held = random.nextInt(4);
      for (int i = 0; i < held && !account.startsWith("''"); i++) {
        String role = any(roles);
        // which of two accounts of one name a role came through is another thing nobody can read
        if (!roleOfName.add(role + " " + account.substring(0, account.lastIndexOf('@')))) {
          continue;
        }
        attempt("grant " + role + " to " + account + (chance(20) ? " with admin option" : ""));
        if (chance(50)) {
          attempt("set default role " + role + " for " + account);
        }
        if (chance(10)) {
          attempt("revoke " + role + " from " + account);
        }
      }
    }
    if (chance(40)) {
      attempt("grant " + any(roles) + " to public");
    }
  }

  private String some(List<String> privileges) {
    StringBuilder words = new StringBuilder(any(privileges));
    while (chance(50)) {
      words.append(", ").append(any(privileges));
    }
    return words.toString();
  }

  private void grant() {
    String to = chance(3) ? "public" : any(chance(55) ? roles : accounts);
    String option = chance(20) ? " with grant option" : "";
    int kind = random.nextInt(100);
    if (kind < 6) {
      attempt("grant " + some(ON_SCHEMA) + " on *.* to " + to + option);
    } else if (kind < 45) {
      attempt(
          "grant "
              + (chance(5) ? "usage" : some(ON_SCHEMA))
              + " on "
              + name(any(PATTERNS))
              + ".* to "
              + to
              + option);
    } else if (kind < 72) {
      attempt("grant " + some(ON_TABLE) + " on " + any(relations) + " to " + to + option);
    } else if (kind < 88) {
      attempt(
          "grant "
              + any(ON_COLUMNS)
              + " ("
              + (chance(50) ? "a" : "a, `c d`")
              + ") on "
              + any(relations)
              + " to "
              + to
              + option);
    } else if (kind < 96) {
      attempt(
          "grant "
              + (chance(70) ? "execute" : "execute, alter routine")
              + " on "
              + any(routines)
              + " to "
              + to
              + option);
    } else {
      attempt("revoke " + some(ON_TABLE) + " on " + any(relations) + " from " + to);
    }
  }
}
