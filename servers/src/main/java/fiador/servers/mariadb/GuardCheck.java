package fiador.servers.mariadb;

import fiador.grants.AccountName;
import fiador.grants.Sights.Doubt;
import fiador.servers.Sql;
import fiador.servers.lineage.NotUnderstood;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
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
      "select 1 from information_schema.SCHEMATA where binary SCHEMA_NAME = 'fiador_guard'";

  private static final String TABLES =
      """
      select t.TABLE_NAME, t.TABLE_TYPE, coalesce(t.ENGINE, '') as engine,
             coalesce((select group_concat(c.COLUMN_NAME, ' ', c.COLUMN_TYPE
                                           order by c.ORDINAL_POSITION separator ',')
                from information_schema.COLUMNS c
               where c.TABLE_SCHEMA = t.TABLE_SCHEMA and c.TABLE_NAME = t.TABLE_NAME), '') as columns,
             exists (select 1 from information_schema.COLUMNS c
                      where c.TABLE_SCHEMA = t.TABLE_SCHEMA and c.TABLE_NAME = t.TABLE_NAME
                        and (c.EXTRA <> '' or c.GENERATION_EXPRESSION is not null)) as generated
        from information_schema.TABLES t
       where t.TABLE_SCHEMA = 'fiador_guard'
       order by 1
      """;

  private static final String VIEWS =
      """
      select TABLE_NAME, VIEW_DEFINITION, DEFINER, SECURITY_TYPE
        from information_schema.VIEWS where TABLE_SCHEMA = 'fiador_guard' order by 1
      """;

  private static final String OTHERS =
      """
      select concat('the trigger ', TRIGGER_NAME) from information_schema.TRIGGERS
       where 'fiador_guard' in (TRIGGER_SCHEMA, EVENT_OBJECT_SCHEMA)
      union all
      select concat('the routine ', ROUTINE_NAME) from information_schema.ROUTINES
       where ROUTINE_SCHEMA = 'fiador_guard'
      union all
      select concat('the event ', EVENT_NAME) from information_schema.EVENTS
       where EVENT_SCHEMA = 'fiador_guard'
      union all
      select concat('the check ', CONSTRAINT_NAME) from information_schema.CHECK_CONSTRAINTS
       where CONSTRAINT_SCHEMA = 'fiador_guard'
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

  private static final Map<String, Set<ViewText.Name>> VIEWS_READ =
      Map.of(
          "own_attributes", Set.of(new ViewText.Name("fiador_guard", "attributes")),
          "own_roles", Set.of(new ViewText.Name("mysql", "roles_mapping")));

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
   * @return why nothing there is believed; empty when it is, or when there is no such schema
   */
  static Optional<Doubt> of(Connection connection, String keeper) throws SQLException {
    GuardCheck check = new GuardCheck(connection);
    boolean[] there = new boolean[1];
    Sql.rows(connection, THERE, row -> there[0] = true);
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

  private void look(String keeper) throws SQLException {
    Sql.rows(connection, "select current_user()", row -> self = row.getString(1));
    Sql.rows(connection, STRONG, row -> strong.add(row.getString(1)));
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
                  && (!wanted.equals(row.getString(4))
                      || !ENGINES.contains(row.getString(3))
                      || row.getBoolean(5))) {
            why.add(name + " is not as Fiador makes it");
          }
        });
    Sql.rows(connection, OTHERS, row -> why.add("it holds " + row.getString(1)));
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

  /** A lookup may read any one table, the others just what they are for. */
  private static boolean reads(String view, String query) {
    try {
      ViewText text = ViewText.of(HiddenCode.quoted(query));
      Set<ViewText.Name> wanted = VIEWS_READ.get(view);
      boolean tables =
          wanted == null ? text.tables().size() == 1 : wanted.equals(text.tables().keySet());
      return tables && text.functions().isEmpty();
    } catch (NotUnderstood beyond) {
      return false;
    }
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
