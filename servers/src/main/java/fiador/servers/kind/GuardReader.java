package fiador.servers.kind;

import fiador.grants.AccessBuilder;
import fiador.grants.LookupKey;
import fiador.grants.Sights;
import fiador.policies.Fields;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.function.ToIntBiFunction;

/** Reads what the guarded schema keeps. */
public final class GuardReader {
  /** What stands before a lookup table's name where it is kept. */
  public static final String LOOKUP = "lookup_";

  private static final String ATTRIBUTES =
      """
      select user_name, attribute, value from fiador_guard.attributes
       order by user_name, attribute, value
      """;

  private final AccessBuilder builder;
  private final int database;
  private final ToIntBiFunction<String, String> nodes;

  /**
   * A reader.
   *
   * @param database the node of the database it is in, or 0
   * @param nodes finds a table or view by its schema and name; -1 for none
   */
  public GuardReader(AccessBuilder builder, int database, ToIntBiFunction<String, String> nodes) {
    this.builder = builder;
    this.database = database;
    this.nodes = nodes;
  }

  /**
   * Reads it.
   *
   * @param kept the query for what was made, whether it still is as it was made, and what it is by
   *     now
   */
  public void read(Connection connection, String kept) throws SQLException {
    Sql.rows(
        connection,
        ATTRIBUTES,
        row ->
            builder
                .sights()
                .attribute(database, row.getString(1), row.getString(2), row.getString(3)));
    Sql.rows(
        connection,
        kept,
        row -> {
          int node = nodes.applyAsInt(row.getString(1), row.getString(2));
          int table = nodes.applyAsInt(row.getString(3), row.getString(4));
          String policies = row.getString(5);
          boolean asMade = row.getBoolean(6);
          if (policies.startsWith(LOOKUP)) {
            if (table < 0 || row.getString("text") == null) {
              return;
            }
            String[] parts = Fields.of(policies.substring(LOOKUP.length()));
            builder
                .sights()
                .lookup(
                    new Sights.LookupTable(
                        database,
                        parts[0],
                        table,
                        parts[1],
                        parts.length > 3 ? new LookupKey(parts[3]) : LookupKey.USER,
                        parts[2],
                        asMade));
          } else if (node >= 0 && table >= 0) {
            builder.sights().kept(node, new Sights.Kept(table, policies, asMade));
          }
        });
  }
}
