package fiador.servers.mariadb;

import fiador.grants.AccountName;
import fiador.grants.Sights.Doubt;
import fiador.servers.jdbc.Sql;
import fiador.sqltext.lineage.QuotedNames;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Whether a guarded schema is what Fiador itself makes. A schema has no owner here, so it is the
 * definers of its views that count, and that nobody may write to it but who may write anywhere.
 */
final class GuardCheck {
  private static final String THERE =
      "select 1 from information_schema.SCHEMATA where SCHEMA_NAME = 'fiador_guard'"
          + " and binary SCHEMA_NAME = 'fiador_guard'";

  /** The schema as a literal lets the server open nothing else. */
  private static final String TABLES =
      """
      select TABLE_NAME, TABLE_TYPE, coalesce(ENGINE, '') as engine
        from information_schema.TABLES where TABLE_SCHEMA = 'fiador_guard' and binary TABLE_SCHEMA = 'fiador_guard' order by 1
      """;

  private static final String TABLE_COLUMNS =
      """
      select TABLE_NAME, concat(COLUMN_NAME, ' ', COLUMN_TYPE,
             case when EXTRA <> '' or GENERATION_EXPRESSION is not null then ' generated'
                  else '' end)
        from information_schema.COLUMNS where TABLE_SCHEMA = 'fiador_guard' and binary TABLE_SCHEMA = 'fiador_guard'
       order by TABLE_NAME, ORDINAL_POSITION
      """;

  private static final String VIEWS =
      """
      select TABLE_NAME, VIEW_DEFINITION, DEFINER, SECURITY_TYPE
        from information_schema.VIEWS where TABLE_SCHEMA = 'fiador_guard' and binary TABLE_SCHEMA = 'fiador_guard' order by 1
      """;

  private static final String OTHERS =
      """
      select concat('the trigger ', TRIGGER_NAME) from information_schema.TRIGGERS
       where EVENT_OBJECT_SCHEMA = 'fiador_guard' and binary EVENT_OBJECT_SCHEMA = 'fiador_guard'
      union all
      select concat('the routine ', ROUTINE_NAME) from information_schema.ROUTINES
       where ROUTINE_SCHEMA = 'fiador_guard' and binary ROUTINE_SCHEMA = 'fiador_guard'
      union all
      select concat('the event ', EVENT_NAME) from information_schema.EVENTS
       where EVENT_SCHEMA = 'fiador_guard' and binary EVENT_SCHEMA = 'fiador_guard'
      union all
      select concat('the check ', CONSTRAINT_NAME) from information_schema.CHECK_CONSTRAINTS
       where CONSTRAINT_SCHEMA = 'fiador_guard' and binary CONSTRAINT_SCHEMA = 'fiador_guard'
      order by 1
      """;

  /** Rows that a whole schema's pattern brings in count too. */
  private static final String RIGHTS =
      """
      select d.User, d.Host, concat('on schemas like ', d.Db) as what
        from mysql.db d
       where convert('fiador_guard' using utf8mb4) collate utf8mb4_bin
             like convert(d.Db using utf8mb4) collate utf8mb4_bin
      union all
      select t.User, t.Host, concat('to change ', t.Table_name) from mysql.tables_priv t
       where t.Db = 'fiador_guard' and t.Table_priv not in ('', 'Select')
      union all
      select p.User, p.Host, concat('to execute ', p.Routine_name) from mysql.procs_priv p
       where p.Db = 'fiador_guard'
      order by 1, 2, 3
      """;

  private static final String STRONG =
      """
      select GRANTEE from information_schema.USER_PRIVILEGES
       where PRIVILEGE_TYPE in ('SUPER', 'SET USER')
      """;

  private static final Map<String, String> COLUMNS =
      Map.of(
          "attributes", "user_name varchar(128),attribute varchar(128),value varchar(255)",
          "kept",
              "schema_name varchar(64),object_name varchar(64),table_schema varchar(64),"
                  + "table_name varchar(64),policies longtext,stored longtext",
          "digest_key", "value binary(32)");

  /** What our own views name: their table, and their aliases with columns. */
  private static final Map<String, Set<String>> VIEWS_READ =
      Map.of(
          "own_attributes",
          Set.of("fiador_guard.attributes", "a.attribute", "a.value", "a.user_name"),
          "own_roles",
          Set.of("mysql.roles_mapping", "m.Role", "m.Host", "m.User", "h.role", "held.role"));

  private static final Set<String> ENGINES = Set.of("InnoDB", "Aria", "MyISAM");

  private final Connection connection;
  private final Set<String> strong = new HashSet<>();
  private final List<String> why = new ArrayList<>();
  private String self = "";

  private GuardCheck(Connection connection) {
    this.connection = connection;
  }

  /**
   * Looks.
   *
   * @param keeper the account that settles, with its host, besides those who may act as any account
   * @param making whether it may be about to be made, so that who has rights there matters already
   * @return why nothing there is believed; empty when it is, or when there is no such schema
   */
  static Optional<Doubt> of(Connection connection, String keeper, boolean making)
      throws SQLException {
    GuardCheck check = new GuardCheck(connection);
    boolean[] there = new boolean[1];
    Sql.rows(connection, THERE, row -> there[0] = true);
    if (there[0] || making) {
      check.who();
      check.rights(keeper);
    }
    if (there[0]) {
      check.look(keeper);
    }
    boolean foreign = !check.why.isEmpty();
    if (there[0] && !foreign) {
      check.readable();
    }
    return check.why.isEmpty()
        ? Optional.empty()
        : Optional.of(new Doubt(foreign, List.copyOf(check.why)));
  }

  private void who() throws SQLException {
    Sql.rows(connection, "select current_user()", row -> self = row.getString(1));
    Sql.rows(connection, STRONG, row -> strong.add(row.getString(1)));
  }

  private void look(String keeper) throws SQLException {
    Set<String> views = new HashSet<>();
    Sql.rows(
        connection,
        VIEWS,
        row -> {
          String name = row.getString(1);
          views.add(name);
          String definer = row.getString(3);
          if (!isTrusted(definer, keeper)) {
            why.add(name + " acts as " + definer);
          } else if (!"DEFINER".equals(row.getString(4)) || !reads(name, row.getString(2))) {
            why.add(name + " is not the view that Fiador makes");
          }
        });
    Map<String, String> columns = new HashMap<>();
    Sql.rows(
        connection,
        TABLE_COLUMNS,
        row -> columns.merge(row.getString(1), row.getString(2), (all, one) -> all + "," + one));
    Sql.rows(
        connection,
        TABLES,
        row -> {
          String name = row.getString(1);
          String wanted = COLUMNS.get(name);
          boolean view = views.contains(name);
          boolean known = wanted != null || VIEWS_READ.containsKey(name);
          if (!known && !(view && name.startsWith("lookup_"))) {
            why.add("it holds " + name);
          } else if (view == (wanted != null)
              || wanted != null
                  && (!wanted.equals(columns.get(name)) || !ENGINES.contains(row.getString(3)))) {
            why.add(name + " is not as Fiador makes it");
          }
        });
    Sql.rows(connection, OTHERS, row -> why.add("it holds " + row.getString(1)));
  }

  private void rights(String keeper) throws SQLException {
    Sql.rows(
        connection,
        RIGHTS,
        row -> {
          String who = new AccountName(row.getString(1), row.getString(2)).toString();
          if (!isTrusted(who, keeper)) {
            why.add(who + " has rights " + row.getString(3));
          }
        });
  }

  private boolean isTrusted(String account, String keeper) {
    AccountName name = AccountName.of(account);
    return account.equals(self)
        || account.equals(keeper) && account.indexOf('@') > 0
        || strong.contains("'" + name.user() + "'@'" + name.host() + "'");
  }

  /** A lookup may read any table, the others just what they are for; none may call a routine. */
  private static boolean reads(String view, String query) {
    Set<String> wanted = VIEWS_READ.get(view);
    for (QuotedNames.Pair pair : HiddenCode.quoted(query).pairs()) {
      String name = pair.first() + "." + pair.second();
      if (pair.called() || wanted != null && !wanted.contains(name)) {
        return false;
      }
    }
    return true;
  }

  private void readable() {
    for (String table : List.of("attributes", "kept")) {
      try (Statement statement = connection.createStatement()) {
        statement.execute("select 1 from fiador_guard." + table + " limit 0");
      } catch (SQLException denied) {
        if (denied.getErrorCode() == MariadbServer.TABLE_DENIED) {
          why.add("the login may not select from fiador_guard." + table);
        }
      }
    }
  }
}
