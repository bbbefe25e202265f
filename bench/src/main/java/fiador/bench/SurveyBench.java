package fiador.bench;

import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.Sql;
import fiador.servers.kind.Server;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Locale;

/**
 * Surveys a real server with 100,000 tables, 20,000 roles and 500,000 ACL entries, beside a dump of
 * the same schema by the server's own client, which has to be on the path, and beside fetching the
 * bare catalog rows: {@code SurveyBench [TABLES [ROUNDS]]}. The server is version 14, so that a
 * client of some age can dump it.
 */
public final class SurveyBench {
  private static final int TABLES = 100_000;
  private static final int IN_ONE_GO = 500;
  private static final int ROUNDS = 9;

  /** What tables, columns, roles and ACLs say, as rows, with nothing made of them. */
  private static final List<String> BARE =
      List.of(
          "select oid, rolname, rolsuper, rolinherit, rolcanlogin, rolvaliduntil from pg_roles",
          "select roleid, member, grantor, admin_option from pg_auth_members",
          "select oid, relname, relnamespace, relowner, relkind from pg_class",
          "select attrelid, attnum, attname, atttypid from pg_attribute where attnum > 0",
          "select c.oid, e.grantor, e.grantee, e.privilege_type, e.is_grantable"
              + " from pg_class c cross join lateral aclexplode(c.relacl) e");

  private SurveyBench() {}

  /** Runs it. */
  public static void main(String[] args) throws Exception {
    int tables = args.length > 0 ? Integer.parseInt(args[0]) : TABLES;
    int rounds = args.length > 1 ? Integer.parseInt(args[1]) : ROUNDS;
    Path written = Files.createTempFile("fiador-survey", ".jsonl");
    try (EmbeddedPostgres postgres = RealServer.start("14")) {
      try (Connection connection = postgres.getPostgresDatabase().getConnection()) {
        build(connection, tables);
      }
      measure(postgres, written, rounds);
    } finally {
      Files.delete(written);
    }
  }

  private static void build(Connection connection, int tables) throws SQLException {
    int roles = Math.max(tables / 5, 10);
    int schemas = Math.max(tables / 500, 1);
    try (Statement statement = connection.createStatement()) {
      int held = Math.max(roles / 20, 1);
      each(statement, 0, roles, "create role role_%1$s");
      each(statement, held, roles, "grant role_%2$s to role_%1$s", "i % " + held);
      each(statement, 0, schemas, "create schema schema_%1$s");
      for (int from = 0; from < tables; from += IN_ONE_GO) {
        statement.execute(
            """
            do $$ begin
              for i in %d..%d loop
                execute format(
                  'create table schema_%%s.table_%%s (a int, b bigint, c date, d bool, e int)',
                  i %% %d, i);
                execute format(
                  'grant select on schema_%%s.table_%%s to role_%%s, role_%%s, role_%%s, role_%%s',
                  i %% %d, i, i %% %d, i * 7 %% %d, (i * 13 + 1) %% %d, (i * 29 + 2) %% %d);
              end loop;
            end $$"""
                .formatted(
                    from,
                    Math.min(from + IN_ONE_GO, tables) - 1,
                    schemas,
                    schemas,
                    roles,
                    roles,
                    roles,
                    roles));
      }
      statement.execute("vacuum analyze");
    }
  }

  private static void each(Statement statement, int from, int to, String template, String... more)
      throws SQLException {
    String second = more.length > 0 ? more[0] : "i";
    for (int at = from; at < to; at += IN_ONE_GO) {
      statement.execute(
          "do $$ begin for i in %d..%d loop execute format('%s', i, %s); end loop; end $$"
              .formatted(at, Math.min(at + IN_ONE_GO, to) - 1, template, second));
    }
  }

  private static void measure(EmbeddedPostgres postgres, Path written, int rounds)
      throws Exception {
    Server server = Servers.named("postgresql").orElseThrow();
    Login login = new Login(RealServer.url(postgres), "postgres", "");
    double[] dump = new double[rounds];
    double[] bare = new double[rounds];
    double[] read = new double[rounds];
    double[] write = new double[rounds];
    File discarded = written.toFile();
    List<String> pgDump =
        List.of(
            "pg_dump", "-s", "-h", "localhost", "-p", "" + postgres.getPort(), "-U", "postgres");
    for (int round = -1; round < rounds; round++) {
      double dumped = Processes.run(pgDump, written.getParent(), discarded);
      long start = System.nanoTime();
      long rows = fetch(server, login);
      double fetched = millisSince(start);
      start = System.nanoTime();
      Access access = server.survey(login, "bench", List.of(), Instant.now(), note -> {});
      double surveyed = millisSince(start);
      start = System.nanoTime();
      SurveyWriter.write(access, written);
      if (round < 0) {
        System.out.printf(
            "%d principals, %d nodes, %d grants, %d bare rows%n",
            access.principals().size(), access.tree().size(), access.grants().size(), rows);
      } else {
        dump[round] = dumped;
        bare[round] = fetched;
        read[round] = surveyed;
        write[round] = millisSince(start);
      }
    }
    System.out.println("| what | ms |\n|---|---|");
    say("a dump of the schema", dump);
    say("fetching the bare rows", bare);
    say("the survey", read);
    say("writing its file", write);
  }

  private static long fetch(Server server, Login login) throws Exception {
    long[] rows = new long[1];
    try (Connection connection = server.connect(login, null)) {
      connection.setAutoCommit(false);
      for (String query : BARE) {
        Sql.rows(connection, query, row -> rows[0] += row.getString(1) == null ? 0 : 1);
      }
    }
    return rows[0];
  }

  private static double millisSince(long start) {
    return (System.nanoTime() - start) / 1e6;
  }

  private static void say(String what, double[] millis) {
    System.out.printf(Locale.ROOT, "| %s | %.0f |%n", what, Processes.median(millis));
  }
}
