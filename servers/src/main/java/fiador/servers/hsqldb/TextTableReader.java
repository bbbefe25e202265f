package fiador.servers.hsqldb;

import fiador.estate.None;
import fiador.grants.Abroad;
import fiador.grants.AbroadBuilder;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Map;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/** Reads which tables are files: text tables, which the server reads with its process's rights. */
final class TextTableReader {
  private static final String TABLES =
      """
      select table_schem, table_name, data_source_defintion
        from information_schema.system_texttables
       order by 1, 2
      """;

  private final AbroadBuilder abroad;
  private final BiFunction<String, String, @Nullable Integer> nodes;

  /** Into that; {@code nodes} gives a table's id by schema and name. */
  TextTableReader(AbroadBuilder abroad, BiFunction<String, String, @Nullable Integer> nodes) {
    this.abroad = abroad;
    this.nodes = nodes;
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(
        connection,
        TABLES,
        row -> {
          Integer node = nodes.apply(row.getString(1), row.getString(2));
          if (node != null) {
            table(node, row.getString(3) == null ? "" : row.getString(3));
          }
        });
  }

  /** Behind the file's name stand settings of how it is read. */
  private void table(int node, String source) {
    int place =
        abroad.places() > 0
            ? 0
            : abroad.place(
                new Abroad.Place(
                    "", 0, None.PRINCIPAL, Abroad.Carrier.FILE, "text table", "", "", ""));
    String file = source.replaceFirst(";.*$", "");
    abroad.table(node, new Abroad.Table(place, "", file, Map.of()));
  }
}
