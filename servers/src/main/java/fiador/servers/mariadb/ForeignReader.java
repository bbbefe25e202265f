package fiador.servers.mariadb;

import fiador.estate.None;
import fiador.grants.Abroad;
import fiador.grants.AbroadBuilder;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;

/**
 * Reads which tables are kept by engines that ask another server. Where each leads is not read: the
 * secret stands in the same text, and to show it the server opens the table, which may have it call
 * wherever the table's maker says. Nor are the servers written down in {@code mysql.servers}: by
 * that table a settle keeps others out, and whoever surveys meanwhile would wait for it.
 */
final class ForeignReader {
  private static final String TABLES =
      """
      select TABLE_SCHEMA, TABLE_NAME, ENGINE
        from information_schema.TABLES
       where ENGINE in ('FEDERATED', 'CONNECT', 'SPIDER', 'S3')
       order by binary TABLE_SCHEMA, binary TABLE_NAME
      """;

  private final Catalog catalog;
  private final AbroadBuilder abroad;
  private final Map<String, Integer> engines = new HashMap<>();

  ForeignReader(Catalog catalog) {
    this.catalog = catalog;
    this.abroad = catalog.builder().abroad();
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(connection, TABLES, this::table);
  }

  private void table(ResultSet row) throws SQLException {
    int node = catalog.node(row.getString(1), row.getString(2));
    if (node >= 0) {
      String engine = row.getString(3);
      boolean federated = engine.equals("FEDERATED");
      int place =
          engines.computeIfAbsent(
              engine,
              fresh ->
                  abroad.place(
                      new Abroad.Place(
                          "",
                          0,
                          None.PRINCIPAL,
                          federated ? Abroad.Carrier.MARIADB : Abroad.Carrier.OTHER,
                          engine,
                          "",
                          "",
                          "")));
      abroad.table(node, new Abroad.Table(place, "", "", Map.of()));
    }
  }
}
