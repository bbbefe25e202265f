package fiador.bench;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.On;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.Step;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.In;
import fiador.servers.Servers;
import fiador.servers.kind.Server;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;

/**
 * What a row policy costs on PostgreSQL: a count through the deployed policy, beside the same count
 * with the condition written by hand, in turns on one server.
 */
public final class PolicyBench {
  private static final int ROWS = 1_000_000;
  private static final int ROUNDS = 75;
  private static final List<SafeColumn> COLUMNS =
      List.of(
          new SafeColumn("id", ColumnType.INTEGER), new SafeColumn("district", ColumnType.TEXT));

  private PolicyBench() {}

  /** Runs it and prints medians and their ratio. */
  public static void main(String[] args) throws Exception {
    Server kind = Servers.named("postgresql").orElseThrow();
    try (EmbeddedPostgres server = RealServer.start()) {
      String url = server.getJdbcUrl("postgres", "postgres");
      try (Connection admin = DriverManager.getConnection(url)) {
        prepare(kind, admin);
        RealServer.oneAtATime(admin);
      }
      try (Connection policy = DriverManager.getConnection(url);
          Connection byHand = DriverManager.getConnection(url)) {
        run(policy, "SET SESSION AUTHORIZATION reader");
        run(byHand, "SET SESSION AUTHORIZATION free");
        String hand = "SELECT count(*) FROM shop.t WHERE district IN ('d1', 'd2', 'd3')";
        double[] through = new double[ROUNDS];
        double[] plain = new double[ROUNDS];
        for (int round = 0; round < ROUNDS; round++) {
          through[round] = time(policy, "SELECT count(*) FROM shop.t");
          plain[round] = time(byHand, hand);
        }
        Arrays.sort(through);
        Arrays.sort(plain);
        System.out.printf(
            "through the policy %.1f ms, by hand %.1f ms, ratio %.2f%n",
            through[ROUNDS / 2], plain[ROUNDS / 2], through[ROUNDS / 2] / plain[ROUNDS / 2]);
      }
    }
  }

  private static void prepare(Server kind, Connection admin) throws SQLException {
    run(admin, "CREATE SCHEMA shop");
    run(admin, "CREATE TABLE shop.t (id integer, district text)");
    run(
        admin,
        "INSERT INTO shop.t SELECT n, 'd' || n % 10 FROM generate_series(1, " + ROWS + ") n");
    run(admin, "CREATE ROLE reader LOGIN; CREATE ROLE free LOGIN BYPASSRLS");
    run(admin, "GRANT USAGE ON SCHEMA shop TO PUBLIC; GRANT SELECT ON shop.t TO PUBLIC");
    Expression own =
        new In(
            new Column("district", 1, ColumnType.TEXT),
            List.of(new Attribute("districts", ColumnType.TEXT)));
    RowPolicy policy = new RowPolicy("own", true, Expression.TRUE, Expression.FALSE, own);
    String text = SightText.of(new TableSight(List.of(policy), List.of()));
    On table = new On(NodeKind.TABLE, "postgres", List.of("shop", "t"));
    for (Step step :
        List.of(
            new Guard("postgres", true),
            new SetAttribute(
                "postgres", "reader", "districts", List.of(), List.of("d1", "d2", "d3")),
            new FilterRows(table, COLUMNS, "", text))) {
      for (String sql : kind.dialect().statements(step)) {
        run(admin, sql);
      }
    }
    run(admin, "VACUUM ANALYZE shop.t");
  }

  private static void run(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private static double time(Connection connection, String sql) throws SQLException {
    long start = System.nanoTime();
    try (Statement statement = connection.createStatement();
        ResultSet count = statement.executeQuery(sql)) {
      count.next();
      if (count.getLong(1) != ROWS * 3L / 10) {
        throw new IllegalStateException("counted " + count.getLong(1));
      }
    }
    return (System.nanoTime() - start) / 1e6;
  }
}
