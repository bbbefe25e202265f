package fiador.bench;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.ready.ReadySurveys;
import fiador.grants.Access;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Stream;

/**
 * Whole commands on a survey in its ready form, beside a Java that only starts and ends and, where
 * that is asked for, beside psql that writes the same rows by recursive SQL: {@code WholeBench
 * LAUNCHER SURVEY [ROUNDS [psql]]}. Each round is about another user and another table.
 */
public final class WholeBench {
  private static final int ROUNDS = 9;

  private WholeBench() {}

  private record Asked(String user, int id, String table) {}

  /** Runs it. */
  public static void main(String[] args) throws Exception {
    Path launcher = Path.of(args[0]).toAbsolutePath();
    Path survey = Path.of(args[1]).toAbsolutePath();
    int rounds = args.length > 2 ? Integer.parseInt(args[2]) : ROUNDS;
    Access access = new ReadySurveys(System.err::println, Runnable::run).read(survey);
    List<Asked> asked = asked(access, rounds + 2);
    if (args.length > 3) {
      try (EmbeddedPostgres server = RealServer.start();
          Connection connection = server.getPostgresDatabase().getConnection()) {
        SqlBench.load(access, connection);
        names(access, connection);
        measure(launcher, survey, asked, server.getPort());
      }
    } else {
      measure(launcher, survey, asked, -1);
    }
  }

  private static List<Asked> asked(Access access, int count) {
    Random random = new Random(7);
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    List<Asked> asked = new ArrayList<>();
    while (asked.size() < count) {
      int user = random.nextInt(access.principals().size());
      List<Holding> tables =
          !access.principals().isUser(user)
              ? List.of()
              : holdings.of(user).stream()
                  .filter(row -> access.tree().kind(row.node()) == NodeKind.TABLE)
                  .filter(row -> row.privilege() == Privilege.SELECT)
                  .toList();
      if (!tables.isEmpty()) {
        int table = tables.get(random.nextInt(tables.size())).node();
        asked.add(new Asked(access.principals().name(user), user, access.tree().path(table)));
      }
    }
    return asked;
  }

  /** The names that rows are written with. */
  private static void names(Access access, Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("create table thing (node int, kind text, path text)");
      statement.execute("create table word (bit bigint, privilege text)");
      for (Privilege privilege : Privilege.values()) {
        statement.execute(
            "insert into word values (" + privilege.bit() + ", '" + privilege.text() + "')");
      }
      StringBuilder rows = new StringBuilder();
      for (int node = 0; node < access.tree().size(); node++) {
        rows.append(rows.length() == 0 ? "insert into thing values " : ", ");
        rows.append('(').append(node).append(",'").append(access.tree().kind(node).text());
        rows.append("','").append(access.tree().path(node)).append("')");
        if (node % 10_000 == 9_999 || node == access.tree().size() - 1) {
          statement.execute(rows.toString());
          rows.setLength(0);
        }
      }
      statement.execute("create unique index on thing (node) include (kind, path)");
      statement.execute("vacuum analyze");
    }
  }

  private static List<String> psql(int port, Asked one) {
    String sql =
        SqlBench.CLOSURE.replace("?", String.valueOf(one.id()))
            + "select '"
            + one.user()
            + "', privilege, kind, path from (select node, bit_or(privileges) p from reached"
            + " join given on grantee = id group by node) x join thing using (node)"
            + " join word on (p & bit) <> 0 order by node, bit";
    return List.of(
        "env",
        "PGOPTIONS=-c enable_seqscan=off -c enable_hashjoin=off -c enable_mergejoin=off",
        "psql",
        "-h",
        "localhost",
        "-p",
        String.valueOf(port),
        "-U",
        "postgres",
        "--csv",
        "-c",
        sql);
  }

  private static long lines(File answer) throws IOException {
    try (Stream<String> lines = Files.lines(answer.toPath())) {
      return lines.count();
    }
  }

  private static void measure(Path launcher, Path survey, List<Asked> asked, int port)
      throws IOException, InterruptedException {
    List<String> names = new ArrayList<>(List.of("a bare Java"));
    names.addAll(List.of("trace", "holders", "holdings, summed up", "holdings, rows as csv"));
    if (port >= 0) {
      names.add("psql, the same rows");
    }
    int rounds = asked.size() - 2;
    double[][] millis = new double[names.size()][rounds];
    double[][] more = new double[names.size()][rounds];
    File answer = File.createTempFile("fiador-whole", ".out");
    String from = survey.toString();
    for (int round = -2; round < rounds; round++) {
      Asked one = asked.get(round + 2);
      String tool = launcher.toString();
      List<List<String>> lines = new ArrayList<>();
      lines.add(Processes.bareJava());
      lines.add(List.of(tool, "trace", one.user(), "select", one.table(), "--from", from));
      lines.add(List.of(tool, "holders", one.table(), "--from", from));
      lines.add(List.of(tool, "holdings", one.user(), "--from", from));
      lines.add(List.of(tool, "holdings", one.user(), "--from", from, "--format", "csv"));
      if (port >= 0) {
        lines.add(psql(port, one));
      }
      for (int i = 0; i < lines.size(); i++) {
        double taken = Processes.run(lines.get(i), survey.getParent(), answer);
        if (round < 0) {
          // the same rows, but for those on columns, which the SQL leaves out
          System.out.printf("%s: %d lines%n", names.get(i), lines(answer));
        }
        if (round >= 0) {
          millis[i][round] = taken;
          more[i][round] = taken - millis[0][round];
        }
      }
    }
    answer.delete();
    System.out.println("| | ms | above a bare Java |\n|---|---|---|");
    for (int i = 0; i < names.size(); i++) {
      System.out.printf(
          Locale.ROOT,
          "| %s | %.0f | %.0f |%n",
          names.get(i),
          Processes.median(millis[i]),
          Processes.median(more[i]));
    }
    if (port >= 0) {
      double[] ratios = new double[rounds];
      for (int round = 0; round < rounds; round++) {
        ratios[round] = millis[4][round] / millis[5][round];
      }
      System.out.printf(
          Locale.ROOT, "rows against psql: %.2f in the median%n", Processes.median(ratios));
    }
  }
}
