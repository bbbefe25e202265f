package fiador.servers.mariadb;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.ColumnSets;
import fiador.grants.SchemaPattern;
import fiador.grants.Terms;
import fiador.servers.jdbc.Sql;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;

/**
 * Reads grants on schemas, tables, columns and routines. The right to grant belongs to the place
 * and covers whatever one holds there, so a row that has it may grant everything that exists there.
 */
final class GrantReader {
  private static final String SCHEMAS = "select * from mysql.db order by Db, User, Host";

  private static final String TABLES =
      """
      select Host, Db, User, Table_name, Table_priv
        from mysql.tables_priv
       order by Db, Table_name, User, Host
      """;

  /** Columns count only together with the row of their table. */
  private static final String COLUMNS =
      """
      select c.Host, c.Db, c.User, c.Table_name, c.Column_name, c.Column_priv
        from mysql.columns_priv c
        join mysql.tables_priv t
          on t.Host = c.Host and t.Db = c.Db and t.User = c.User and t.Table_name = c.Table_name
       order by c.Db, c.Table_name, c.User, c.Host, c.Column_name
      """;

  private static final String ROUTINES =
      """
      select Host, Db, User, Routine_name, Routine_type, Proc_priv
        from mysql.procs_priv
       where Routine_type in ('FUNCTION', 'PROCEDURE')
       order by Db, Routine_name, User, Host
      """;

  private static final Map<String, Privilege> SCHEMA_COLUMNS =
      Map.of(
          "Create_tmp_table_priv", Privilege.CREATE_TEMPORARY_TABLES,
          "Lock_tables_priv", Privilege.LOCK_TABLES,
          "Delete_history_priv", Privilege.DELETE_HISTORY);

  private static final Charset LETTERS = Charset.forName("windows-1252");

  private final Catalog catalog;

  GrantReader(Catalog catalog) {
    this.catalog = catalog;
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(connection, SCHEMAS, this::schema);
    Sql.rows(connection, TABLES, this::table);
    readColumns(connection);
    Sql.rows(connection, ROUTINES, this::routine);
  }

  private void schema(ResultSet row) throws SQLException {
    // a nameless row without a host is no account's
    Integer grantee = catalog.grantee(row.getString("User"), row.getString("Host"));
    if (grantee == null) {
      return;
    }
    long privileges = 0;
    boolean canGrant = false;
    ResultSetMetaData about = row.getMetaData();
    for (int i = 1; i <= about.getColumnCount(); i++) {
      String column = about.getColumnName(i);
      if (column.endsWith("_priv") && "Y".equals(row.getString(i))) {
        Privilege privilege = privilege(column);
        canGrant |= column.equals("Grant_priv");
        privileges |= privilege == null ? 0 : privilege.bit();
      }
    }
    long all = catalog.rules().privilegesOn(NodeKind.SCHEMA);
    catalog
        .builder()
        .pattern(new SchemaPattern(grantee, row.getString("Db"), privileges, canGrant ? all : 0));
  }

  private static Privilege privilege(String column) {
    String words = column.substring(0, column.length() - "_priv".length()).replace('_', ' ');
    return SCHEMA_COLUMNS.getOrDefault(column, Privilege.named(words));
  }

  private static long privileges(String set) {
    long bits = 0;
    for (String word : set.split(",", -1)) {
      Privilege privilege =
          word.equals("Delete versioning rows")
              ? Privilege.DELETE_HISTORY
              : Privilege.named(word.toLowerCase(Locale.ROOT));
      bits |= privilege == null ? 0 : privilege.bit();
    }
    return bits;
  }

  private static boolean canGrant(String set) {
    return (',' + set + ',').contains(",Grant,");
  }

  private void table(ResultSet row) throws SQLException {
    int node = catalog.node(row.getString("Db"), row.getString("Table_name"));
    if (node < 0) {
      catalog.unseen(row.getString("Db"), row.getString("Table_name"));
    }
    grant(row, node, row.getString("Table_priv"));
  }

  private void routine(ResultSet row) throws SQLException {
    String schema = row.getString("Db");
    String type = row.getString("Routine_type");
    String name = row.getString("Routine_name");
    int node = catalog.node(schema, type, name);
    if (node < 0) {
      node = catalog.node(onceDecoded(schema), type, name);
    }
    if (node < 0) {
      catalog.unseen(schema, name);
    }
    grant(row, node, row.getString("Proc_priv"));
  }

  /**
   * MariaDB 10.11 writes the schema of a routine's grant into its table as if every byte of the
   * name were a letter; the grant works all the same until the tables are read again.
   */
  private static String onceDecoded(String name) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      // the server's latin1 is this code page, with the gaps filled
      byte[] one = c <= 0xff ? new byte[] {(byte) c} : String.valueOf(c).getBytes(LETTERS);
      bytes.writeBytes(one);
    }
    return bytes.toString(StandardCharsets.UTF_8);
  }

  private void grant(ResultSet row, int node, String set) throws SQLException {
    Integer grantee = catalog.grantee(row.getString("User"), row.getString("Host"));
    if (grantee == null) {
      grantee = catalog.grantee(onceDecoded(row.getString("User")), row.getString("Host"));
    }
    if (grantee != null && node >= 0) {
      long all = catalog.rules().privilegesOn(catalog.estate().kind(node));
      Terms terms = Terms.of(privileges(set) & all, canGrant(set) ? all : 0);
      catalog.builder().grant(grantee, node, terms, ColumnSets.WHOLE, None.PRINCIPAL);
    }
  }

  private record OnColumns(int grantee, int node, Privilege privilege) {}

  private void readColumns(Connection connection) throws SQLException {
    Map<OnColumns, IntArrayList> found = new LinkedHashMap<>();
    Map<Integer, Map<String, Integer>> ordinals = new LinkedHashMap<>();
    Sql.rows(
        connection,
        COLUMNS,
        row -> {
          Integer grantee = catalog.grantee(row.getString("User"), row.getString("Host"));
          int node = catalog.node(row.getString("Db"), row.getString("Table_name"));
          if (grantee == null || node < 0) {
            return;
          }
          Integer ordinal =
              ordinals
                  .computeIfAbsent(node, catalog.estate()::columnOrdinals)
                  .get(row.getString("Column_name"));
          for (String word : row.getString("Column_priv").split(",", -1)) {
            Privilege privilege = Privilege.named(word);
            if (ordinal != null && privilege != null) {
              found
                  .computeIfAbsent(
                      new OnColumns(grantee, node, privilege), fresh -> new IntArrayList())
                  .add(ordinal.intValue());
            }
          }
        });
    found.forEach(
        (on, columns) -> {
          int set = catalog.builder().columnSets().intern(columns.toIntArray());
          Terms terms = Terms.of(on.privilege().bit(), 0);
          catalog.builder().grant(on.grantee(), on.node(), terms, set, None.PRINCIPAL);
        });
  }
}
