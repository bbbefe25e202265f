package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holdings;
import fiador.grants.Access;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Server;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;

/** The process is killed in the middle of a settle, again and again; nothing is lost or doubled. */
abstract class KilledSettle {
  private static final int POINTS = Integer.getInteger("fiador.kills", 6);
  private static final int FULLS = Integer.getInteger("fiador.fulls", 2);
  private static final int MOST_BLOCKS = 120;
  private static final int ROLES = 16;

  @TempDir Path folder;

  /** What goes wrong with a settle that runs in a process of its own. */
  @FunctionalInterface
  private interface Mishap {
    void happens(Path journal) throws Exception;
  }

  final void kill(Login login, String kind, String... setup) throws Exception {
    Random random = new Random(7);
    int halfWay =
        survives(
            login,
            kind,
            POINTS,
            journal -> settleAndKill(journal, 1 + random.nextInt(ROLES * 3)),
            setup);
    assertThat(halfWay).as("times it was caught half-way").isGreaterThan(POINTS / 3);
  }

  /** No file can grow beyond some size: journal, ledger, survey, whatever comes first. */
  final void fill(Login login, String kind, String... setup) throws Exception {
    Random random = new Random(11);
    survives(login, kind, FULLS, journal -> settleOnFullDisk(random.nextInt(MOST_BLOCKS)), setup);
    assertThat(failures).as("times a file could not be written").isGreaterThan(FULLS / 2);
  }

  private int failures;

  private void settleOnFullDisk(int blocks) throws Exception {
    List<String> limited =
        new ArrayList<>(List.of("sh", "-c", "ulimit -f " + blocks + "; exec \"$0\" \"$@\""));
    limited.addAll(settling());
    Process process =
        new ProcessBuilder(limited)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    int code = process.waitFor();
    assertThat(code).isIn(0, 2, 4);
    failures += code == 0 ? 0 : 1;
  }

  private int survives(Login login, String kind, int points, Mishap mishap, String... setup)
      throws Exception {
    Server server = Servers.named(kind).orElseThrow();
    try (Connection admin = server.connect(login, null);
        Statement sql = admin.createStatement()) {
      for (String statement : setup) {
        sql.execute(statement);
      }
      for (int i = 0; i < ROLES; i++) {
        sql.execute("create table s.t" + i + " (a int, b int)");
      }
      if (kind.equals("hsqldb")) {
        sql.execute("shutdown");
      }
    }
    charter(login, kind);
    List<String> before = holdings(server, login);
    Path journal = folder.resolve(".fiador/it.journal.jsonl");
    int halfWay = 0;
    for (int point = 0; point < points; point++) {
      Files.deleteIfExists(journal);
      mishap.happens(journal);
      Program resumed = run("--resume");
      // what was stopped before its journal was written has changed nothing
      boolean unbegun = resumed.err.contains("there is no journal");
      assertThat(resumed.code).as("point " + point + ": " + resumed.err).isEqualTo(unbegun ? 2 : 0);
      boolean stopped = resumed.out.startsWith("resumed");
      halfWay += stopped ? 1 : 0;
      if (!stopped) {
        run();
      }
      Program again = run();
      assertThat(again.out).as("point " + point + again.err).contains("nothing to do");
      Program undone = run("--undo");
      assertThat(undone.code).as(undone.out + undone.err).isZero();
      assertThat(holdings(server, login)).as("point " + point).isEqualTo(before);
    }
    return halfWay;
  }

  private Program run(String... more) {
    List<String> all = new ArrayList<>(List.of("settle", "-q"));
    all.addAll(List.of(more));
    all.addAll(List.of("--charter", folder.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  private void charter(Login login, String kind) throws Exception {
    StringBuilder yaml = new StringBuilder("fiador: 1\nestate: killed\nservers:\n  it:\n");
    yaml.append("    kind: ").append(kind).append('\n');
    yaml.append("    url: '").append(login.url()).append("'\n");
    yaml.append("    login: ").append(login.user()).append("\nroles:\n");
    for (int i = 0; i < ROLES; i++) {
      yaml.append("  k").append(i).append(":\n    purpose: access\n    may:\n");
      yaml.append("      - select, insert on table s.t").append(i).append('\n');
      yaml.append("      - update (a) on table s.t").append(i).append('\n');
    }
    yaml.append(
        """
        users:
          u:
            roles: [k0, k1 on request]
            attributes: {n: [1, 2]}
            limits: {connections: 9, queries_per_hour: 50000}
        labels: {numbered: [s.t0]}
        governs: {schemas: [s]}
        row_policies:
          own: {on: every table labelled numbered, rows: a in user.n}
        mask_policies:
          nothing: {on: s.t0.b, clear_for: [role k1], clear_where: a = 1, mask: zero}
          aside: {on: [s.t2.b, s.t5.b], clear_for: [role k2], mask: zero, place: under the table's name}
        """);
    Files.writeString(folder.resolve("fiador.yaml"), yaml);
  }

  /** A settle as a process of its own. */
  private List<String> settling() {
    return List.of(
        Path.of(System.getProperty("java.home"), "bin/java").toString(),
        "-XX:TieredStopAtLevel=1",
        "-XX:-UsePerfData",
        "-cp",
        System.getProperty("java.class.path"),
        "fiador.cli.Main",
        "settle",
        "-q",
        "--charter",
        folder.toString());
  }

  /** Starts a settle as a process of its own and kills it when its journal has so many notes. */
  private void settleAndKill(Path journal, int notes) throws Exception {
    Process process =
        new ProcessBuilder(settling())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("killed.log").toFile())
            .start();
    while (process.isAlive()) {
      if (notes(journal) >= notes) {
        process.destroyForcibly();
      }
      Thread.sleep(1);
    }
    process.waitFor();
  }

  private static long notes(Path journal) throws Exception {
    if (!Files.isRegularFile(journal)) {
      return 0;
    }
    try (Stream<String> lines = Files.lines(journal)) {
      return lines
          .filter(line -> line.startsWith("{\"begins") || line.startsWith("{\"done"))
          .count();
    }
  }

  private static List<String> holdings(Server server, Login login) throws Exception {
    Access access = server.survey(login, "it", List.of(), Instant.now(), note -> {});
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    List<String> rows = new ArrayList<>();
    for (int id = 1; id < access.principals().size(); id++) {
      rows.add(access.principals().name(id));
      for (var row : holdings.of(id)) {
        rows.add(access.principals().name(id) + row.privilege() + access.tree().path(row.node()));
      }
    }
    return rows;
  }
}
