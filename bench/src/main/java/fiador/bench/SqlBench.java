package fiador.bench;

import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Random;
import java.util.function.ToLongFunction;
import org.postgresql.PGConnection;
import org.postgresql.copy.PGCopyOutputStream;

/**
 * The same questions in recursive SQL on a real PostgreSQL 18, with indexes both ways, prepared
 * statements and index probes forced (the planner overestimates recursion). Simpler than what
 * Fiador answers: no gates, no switching, no columns. {@code SqlBench SIZE}, after {@code mvn
 * verify}, which fetches the server.
 */
public final class SqlBench {
  private static final int ASKED = 20;
  private static final int ROUNDS = 5;

  static final String CLOSURE =
      """
      with recursive reached(id) as (
        select ?::int union select m.role from reached r join member m on m.member = r.id)
      """;

  private static final String REVERSE =
      """
      with recursive reached(id) as (
        select distinct grantee from given where node = ?::int
        union select m.member from reached r join member m on m.role = r.id)
      """;

  private SqlBench() {}

  /** Runs it. */
  public static void main(String[] args) throws IOException, SQLException {
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args[0]);
    Access access = new EstateGenerator(size, 1).generate();
    try (EmbeddedPostgres server = RealServer.start();
        Connection connection = server.getPostgresDatabase().getConnection()) {
      load(access, connection);
      ask(access, size, connection);
    }
  }

  static void load(Access access, Connection connection) throws SQLException, IOException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("create table member (member int, role int)");
      statement.execute("create table given (grantee int, node int, privileges int)");
      copy(connection, "member", access.memberships().size(), SqlBench::members, access);
      copy(connection, "given", access.grants().size(), SqlBench::given, access);
      statement.execute("create index on member (member, role)");
      statement.execute("create index on member (role, member)");
      statement.execute("create index on given (grantee, node) include (privileges)");
      statement.execute("create index on given (node, grantee)");
      statement.execute("vacuum analyze");
      statement.execute("set enable_seqscan = off");
      statement.execute("set enable_hashjoin = off");
      statement.execute("set enable_mergejoin = off");
    }
  }

  @FunctionalInterface
  private interface Line {
    String of(Access access, int row);
  }

  private static String members(Access access, int row) {
    return access.memberships().member(row) + "\t" + access.memberships().role(row) + "\n";
  }

  private static String given(Access access, int row) {
    boolean whole = access.grants().columns(row) == ColumnSets.WHOLE;
    return access.grants().grantee(row)
        + "\t"
        + access.grants().node(row)
        + "\t"
        + (whole ? access.grants().terms(row).privileges() : 0)
        + "\n";
  }

  private static void copy(Connection connection, String table, int rows, Line line, Access access)
      throws SQLException, IOException {
    PGConnection postgres = connection.unwrap(PGConnection.class);
    try (OutputStream out = new PGCopyOutputStream(postgres, "copy " + table + " from stdin")) {
      for (int row = 0; row < rows; row++) {
        out.write(line.of(access, row).getBytes(StandardCharsets.US_ASCII));
      }
    }
  }

  private static void ask(Access access, EstateGenerator.Size size, Connection connection)
      throws SQLException {
    Random random = new Random(7);
    int[] users = random.ints(ASKED, 1, size.users + 1).toArray();
    int[] tables = new int[ASKED];
    for (int i = 0; i < ASKED; ) {
      int node = random.nextInt(access.tree().size());
      if (access.tree().kind(node) == NodeKind.TABLE) {
        tables[i++] = node;
      }
    }
    measure(
        connection,
        "holdings of a user, as rows",
        users,
        CLOSURE
            + "select node, bit_or(privileges) from reached join given on grantee = id group by node");
    measure(
        connection,
        "holdings of a user, counted",
        users,
        CLOSURE
            + "select sum(bit_count(p::bit(32))) from (select bit_or(privileges) p from reached"
            + " join given on grantee = id group by node) x");
    measure(
        connection,
        "holders of a table, as rows",
        tables,
        REVERSE + "select id from reached where id <= " + size.users);
  }

  private static void measure(Connection connection, String what, int[] ids, String sql)
      throws SQLException {
    double[] all = new double[ids.length * ROUNDS];
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      ToLongFunction<Integer> question =
          id -> {
            try {
              statement.setInt(1, id);
              long rows = 0;
              try (ResultSet found = statement.executeQuery()) {
                while (found.next()) {
                  rows++;
                }
              }
              return rows;
            } catch (SQLException broken) {
              throw new IllegalStateException(broken);
            }
          };
      long answers = 0;
      for (int round = -2; round < ROUNDS; round++) {
        for (int i = 0; i < ids.length; i++) {
          long start = System.nanoTime();
          answers += question.applyAsLong(ids[i]);
          if (round >= 0) {
            all[round * ids.length + i] = (System.nanoTime() - start) / 1e6;
          }
        }
      }
      if (answers < 0) {
        throw new IllegalStateException("a count below nothing");
      }
    }
    Arrays.sort(all);
    System.out.printf(
        "%-40s median %9.3f ms   90%% %9.3f ms%n",
        what, all[all.length / 2], all[all.length * 9 / 10]);
  }
}
