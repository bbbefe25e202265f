package fiador.servers.hsqldb;

import fiador.grants.Sights;
import fiador.grants.SightsBuilder;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;

/** Reads how tables fill their columns, which a view that takes a table's name has to know. */
final class FillReader {
  private final SightsBuilder sights;
  private final BiFunction<String, String, Integer> nodes;
  private final Map<Integer, Sights.Fills> found = new LinkedHashMap<>();

  /**
   * @param nodes the node of a table by its schema and name, or null
   */
  FillReader(SightsBuilder sights, BiFunction<String, String, Integer> nodes) {
    this.sights = sights;
    this.nodes = nodes;
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(
        connection,
        HsqldbQueries.DEFAULTS,
        row -> {
          Sights.Fills fills = of(row.getString(1), row.getString(2));
          if (row.getBoolean(5)) {
            fills.never().add(row.getString(3));
          } else {
            fills.defaults().put(row.getString(3), row.getString(4));
          }
        });
    Sql.rows(
        connection,
        HsqldbQueries.KEYS,
        row -> of(row.getString(1), row.getString(2)).key().add(row.getString(3)));
    found.forEach(
        (table, fills) ->
            sights.fills(
                table,
                new Sights.Fills(
                    fills.defaults(), List.copyOf(fills.never()), List.copyOf(fills.key()))));
  }

  /** That of views and of what is not surveyed is forgotten. */
  private Sights.Fills of(String schema, String name) {
    Integer table = nodes.apply(schema, name);
    Sights.Fills fresh =
        new Sights.Fills(new LinkedHashMap<>(), new ArrayList<>(), new ArrayList<>());
    return table == null ? fresh : found.computeIfAbsent(table, none -> fresh);
  }
}
