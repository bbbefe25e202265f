package fiador.bench;

import fiador.changes.Gap;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.Dialect.Batch;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Times carrying out 10,000 grants on a PostgreSQL against feeding the same statements through the
 * server's own client, which has to be on the path, in one transaction.
 */
public final class SettleBench {
  private static final int ROLES = 100;
  private static final int TABLES = 100;
  private static final int ROUNDS = 9;

  private SettleBench() {}

  /** Takes nothing. */
  public static void main(String[] args) throws Exception {
    try (EmbeddedPostgres postgres = RealServer.start()) {
      Server server = Servers.named("postgresql").orElseThrow();
      Login login = new Login(RealServer.url(postgres), "postgres", "");
      try (Connection admin = server.connect(login, null);
          Statement sql = admin.createStatement()) {
        sql.execute("create schema s");
        for (int i = 0; i < TABLES; i++) {
          sql.execute("create table s.t" + i + " (a int)");
        }
        for (int i = 0; i < ROLES; i++) {
          sql.execute("create role r" + i);
        }
      }
      Access before = server.survey(login, "bench", List.of(), Instant.now(), note -> {});
      Gap gap = Gap.between(before, wanted(), false, Set.of(), Clock.systemUTC());
      List<Step> steps = gap.plan().steps();
      List<Batch> batches = server.dialect().batches(steps);
      Path script = Files.createTempFile("grants", ".sql");
      Files.writeString(
          script, batches.stream().map(each -> each.sql() + ";\n").collect(Collectors.joining()));
      System.out.println(steps.size() + " grants in " + batches.size() + " statements");
      double[] ratios = new double[ROUNDS];
      for (int round = -1; round < ROUNDS; round++) {
        double ours =
            time(() -> new SettleRun(server, login, user -> null).carryOut(steps, quiet()));
        takeBack(server, login);
        double client = time(() -> client(postgres.getPort(), script));
        takeBack(server, login);
        System.out.printf(
            "settle %.3f s, client %.3f s, ratio %.2f%n", ours, client, ours / client);
        if (round >= 0) {
          ratios[round] = ours / client;
        }
      }
      Arrays.sort(ratios);
      System.out.printf("median of the ratio %.2f%n", ratios[ROUNDS / 2]);
    }
  }

  private static Wanted wanted() {
    Place here = new Place("bench", 1, 1);
    List<Wanted.Principal> roles = new ArrayList<>();
    List<Wanted.Grant> grants = new ArrayList<>();
    for (int role = 0; role < ROLES; role++) {
      roles.add(new Wanted.Principal("r" + role, here));
      for (int table = 0; table < TABLES; table++) {
        grants.add(
            new Wanted.Grant(
                "r" + role,
                List.of(new Action(Privilege.SELECT, List.of())),
                new Single(NodeKind.TABLE, "s.t" + table),
                true,
                false,
                false,
                here));
      }
    }
    return new Wanted(roles, List.of(), List.of(), grants);
  }

  private interface Task {
    void run() throws Exception;
  }

  private static double time(Task task) throws Exception {
    long start = System.nanoTime();
    task.run();
    return (System.nanoTime() - start) / 1e9;
  }

  private static void client(int port, Path script) throws Exception {
    Process client =
        new ProcessBuilder(
                "psql",
                "-q",
                "-1",
                "-h",
                "localhost",
                "-p",
                "" + port,
                "-U",
                "postgres",
                "-f",
                "" + script)
            .inheritIO()
            .start();
    if (client.waitFor() != 0) {
      throw new IllegalStateException("the client failed");
    }
  }

  private static void takeBack(Server server, Login login) throws Exception {
    try (Connection admin = server.connect(login, null);
        Statement sql = admin.createStatement()) {
      for (int i = 0; i < ROLES; i++) {
        sql.execute("revoke all on all tables in schema s from r" + i);
      }
      sql.execute("vacuum full pg_catalog.pg_class");
    }
  }

  private static SettleRun.Witness quiet() {
    return new SettleRun.Witness() {
      @Override
      public void begins(List<Step> some) {}

      @Override
      public void done(List<Step> some, String sql) {}
    };
  }
}
