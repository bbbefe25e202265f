package fiador.servers.mariadb;

import fiador.changes.steps.MoveTable;
import fiador.servers.policies.MaskSql;
import fiador.servers.policies.SightStatements;
import java.util.List;

/** Policies on MariaDB: rows and masks by views that read with their definer's rights. */
final class MariadbSight extends SightStatements {
  @Override
  protected MaskSql writer(String qualifier) {
    return new MariadbSightSql(qualifier);
  }

  @Override
  protected String quoted(String name) {
    return '`' + name.replace("`", "``") + '`';
  }

  /** A user is known by name here: which account it is, a definer's view cannot tell. */
  @Override
  protected List<String> makeGuard() {
    return List.of(
        "CREATE DATABASE IF NOT EXISTS fiador_guard CHARACTER SET utf8mb4"
            + " COLLATE utf8mb4_nopad_bin",
        "CREATE TABLE IF NOT EXISTS fiador_guard.attributes (user_name varchar(128),"
            + " attribute varchar(128), value varchar(255),"
            + " PRIMARY KEY (user_name, attribute, value))",
        "CREATE OR REPLACE SQL SECURITY DEFINER VIEW fiador_guard.own_attributes AS"
            + " SELECT a.attribute, a.value FROM fiador_guard.attributes a WHERE a.user_name = "
            + MariadbSightSql.login(),
        "CREATE OR REPLACE SQL SECURITY DEFINER VIEW fiador_guard.own_roles AS"
            + " WITH RECURSIVE held (role) AS (SELECT CONVERT(m.Role USING utf8mb4)"
            + " FROM mysql.roles_mapping m WHERE m.Host <> '' AND CONVERT(m.User USING utf8mb4)"
            + " COLLATE utf8mb4_nopad_bin = "
            + MariadbSightSql.login()
            + " UNION SELECT CONVERT(m.Role USING utf8mb4) FROM held h JOIN mysql.roles_mapping m"
            + " ON m.Host = '' AND CONVERT(m.User USING utf8mb4) COLLATE utf8mb4_nopad_bin = h.role)"
            + " SELECT h.role FROM held h",
        "CREATE TABLE IF NOT EXISTS fiador_guard.kept (schema_name varchar(64),"
            + " object_name varchar(64), table_schema varchar(64), table_name varchar(64),"
            + " policies longtext, stored longtext, PRIMARY KEY (schema_name, object_name))",
        "CREATE TABLE IF NOT EXISTS fiador_guard.digest_key (value binary(32))",
        "INSERT INTO fiador_guard.digest_key SELECT RANDOM_BYTES(32) FROM DUAL"
            + " WHERE NOT EXISTS (SELECT 1 FROM fiador_guard.digest_key)");
  }

  @Override
  protected String dropGuard() {
    return "DROP DATABASE IF EXISTS fiador_guard";
  }

  @Override
  public String makeView(String name, boolean replace, boolean guarded) {
    return "CREATE OR REPLACE"
        + (guarded ? "" : " ALGORITHM = TEMPTABLE")
        + " SQL SECURITY DEFINER VIEW "
        + name;
  }

  /**
   * The server merges conditions into a view, or pushes them down into one it materializes, and
   * then tries them on hidden rows too: functions and warnings would tell what stands there. Not so
   * where there is a limit.
   */
  @Override
  protected String barrier() {
    return " LIMIT 18446744073709551615";
  }

  /**
   * Whoever may drop a table may put a view in its place, and in that a function that runs with the
   * rights of who asks: under a definer's view those of the definer. The server allows hints on
   * indexes for tables only. It keeps this one as one for the whole query, so that no index of the
   * table is used.
   */
  static final String ONLY_TABLES = " USE INDEX FOR GROUP BY ()";

  @Override
  protected String onlyTables() {
    return ONLY_TABLES;
  }

  @Override
  protected List<String> rename(MoveTable move, String from, String to) {
    return List.of("RENAME TABLE " + from + " TO " + path(move.to()));
  }

  @Override
  protected String storedView(String schema, String name) {
    return "SELECT v.view_definition FROM information_schema.views v WHERE v.table_schema = "
        + schema
        + " AND v.table_name = "
        + name
        // names that differ in case alone are the same to the catalog
        + " AND BINARY v.table_schema = BINARY "
        + schema
        + " AND BINARY v.table_name = BINARY "
        + name;
  }
}
