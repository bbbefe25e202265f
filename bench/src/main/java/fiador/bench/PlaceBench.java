package fiador.bench;

import fiador.changes.steps.Guard;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.servers.Servers;
import fiador.servers.kind.Server;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a masked table costs on PostgreSQL for one who sees it masked: the table itself, a view
 * beside it, a view under its name, and a view and trigger written by hand, in turns on one server.
 */
public final class PlaceBench {
  private static final int ROWS = 200_000;
  private static final int ROUNDS = 21;
  private static final int ONES = 2_000;
  private static final List<SafeColumn> COLUMNS =
      List.of(
          new SafeColumn("id", ColumnType.INTEGER),
          new SafeColumn("name", ColumnType.TEXT),
          new SafeColumn("phone", ColumnType.TEXT));
  private static final Map<String, String> WAYS = new LinkedHashMap<>();

  static {
    WAYS.put("table", "shop.plain");
    WAYS.put("by hand", "shop.hand");
    WAYS.put("beside", "shop.beside_safe");
    WAYS.put("under its name", "shop.under");
  }

  private PlaceBench() {}

  /** Runs it and prints medians in milliseconds. */
  public static void main(String[] args) throws Exception {
    Server kind = Servers.named("postgresql").orElseThrow();
    try (EmbeddedPostgres server = RealServer.start()) {
      String url = server.getJdbcUrl("postgres", "postgres");
      try (Connection admin = DriverManager.getConnection(url)) {
        prepare(kind, admin);
        RealServer.oneAtATime(admin);
      }
      try (Connection reader = DriverManager.getConnection(url)) {
        run(reader, "SET SESSION AUTHORIZATION reader");
        measure(reader, "count and the greatest phone", "SELECT count(*), max(phone) FROM %s", 1);
        measure(reader, ONES + " rows by key", "SELECT name, phone FROM %s WHERE id = %d", ONES);
        measure(reader, ONES + " updates by key", "UPDATE %s SET name = 'x' WHERE id = %d", ONES);
        measure(
            reader,
            ONES + " inserts",
            "INSERT INTO %s VALUES (nextval('shop.s'), 'new %d', '555')",
            ONES);
      }
    }
  }

  private static void measure(Connection reader, String what, String sql, int times)
      throws SQLException {
    Map<String, double[]> took = new LinkedHashMap<>();
    for (int round = 0; round < ROUNDS; round++) {
      for (Map.Entry<String, String> way : WAYS.entrySet()) {
        boolean writes = !sql.startsWith("SELECT");
        if (writes && way.getKey().equals("beside")) {
          continue;
        }
        long start = System.nanoTime();
        for (int i = 1; i <= times; i++) {
          run(reader, sql.formatted(way.getValue(), round * times % 100_000 + i));
        }
        took.computeIfAbsent(way.getKey(), none -> new double[ROUNDS])[round] =
            (System.nanoTime() - start) / 1e6;
      }
    }
    StringBuilder line = new StringBuilder(what + ":");
    took.forEach(
        (way, each) -> {
          Arrays.sort(each);
          line.append("  %s %.1f ms".formatted(way, each[ROUNDS / 2]));
        });
    System.out.println(line);
  }

  private static void prepare(Server kind, Connection admin) throws SQLException {
    run(admin, "CREATE SCHEMA shop; CREATE SEQUENCE shop.s START 1000000");
    run(admin, "CREATE ROLE reader LOGIN; CREATE ROLE bosses; CREATE ROLE writer");
    for (String table : List.of("plain", "hand_base", "beside", "under")) {
      run(
          admin,
          "CREATE TABLE shop."
              + table
              + " (id integer PRIMARY KEY, name varchar(30), phone varchar(20))");
      run(
          admin,
          "INSERT INTO shop."
              + table
              + " SELECT n, 'name ' || n, '555-' || n FROM generate_series(1, "
              + ROWS
              + ") n");
    }
    Expression others = new Expression.Not(new Expression.IsTrue(new Expression.Holds("bosses")));
    ColumnMask mask = new ColumnMask("m", "phone", others, Mask.of("keep_last(2)"));
    String text = SightText.of(new TableSight(List.of(), List.of(mask)));
    On table = table("beside");
    On aside = table("under_base");
    for (Step step :
        List.of(
            new Guard("postgres", true),
            new ShowSafely(
                null, new SafeView(view("beside_safe"), table, COLUMNS, text, false, null)),
            new MoveTable(table("under"), aside, true, null, List.of()),
            new ShowSafely(null, new SafeView(view("under"), aside, COLUMNS, text, true, null)))) {
      for (String sql : kind.dialect().statements(step)) {
        run(admin, sql);
      }
    }
    byHand(admin);
    run(admin, "GRANT USAGE ON SCHEMA shop TO PUBLIC; GRANT USAGE ON SEQUENCE shop.s TO PUBLIC");
    run(admin, "GRANT SELECT, INSERT, UPDATE ON ALL TABLES IN SCHEMA shop TO reader");
    run(admin, "VACUUM ANALYZE");
  }

  private static void byHand(Connection admin) throws SQLException {
    run(
        admin,
        "CREATE VIEW shop.hand WITH (security_barrier = true) AS SELECT id, name, CASE WHEN"
            + " pg_has_role(session_user, 'bosses', 'MEMBER') THEN phone::text ELSE"
            + " repeat('*', length(phone) - 2) || right(phone, 2) END AS phone FROM shop.hand_base");
    run(
        admin,
        "CREATE FUNCTION shop.hand() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN"
            + " IF TG_OP = 'INSERT' THEN INSERT INTO shop.hand_base VALUES (NEW.id, NEW.name,"
            + " NEW.phone); ELSE UPDATE shop.hand_base SET name = NEW.name, phone = CASE WHEN"
            + " NEW.phone IS DISTINCT FROM OLD.phone THEN NEW.phone ELSE phone END"
            + " WHERE id = OLD.id; END IF; RETURN NEW; END $$");
    run(
        admin,
        "CREATE TRIGGER hand INSTEAD OF INSERT OR UPDATE ON shop.hand FOR EACH ROW"
            + " EXECUTE FUNCTION shop.hand()");
  }

  private static On table(String name) {
    return new On(NodeKind.TABLE, "postgres", List.of("shop", name));
  }

  private static On view(String name) {
    return new On(NodeKind.VIEW, "postgres", List.of("shop", name));
  }

  private static void run(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }
}
