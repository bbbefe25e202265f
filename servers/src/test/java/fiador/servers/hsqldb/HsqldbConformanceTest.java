package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.servers.CharterTrip;
import fiador.servers.RoundTrip;
import fiador.servers.Shrinking;
import fiador.servers.jdbc.Login;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Random estates on a real HSQLDB: every holding equals what statements run as the user do. */
class HsqldbConformanceTest {
  private static final int SEEDS = Integer.getInteger("fiador.seeds", 20);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  /** On every such one of the estates something is also taken away as reviews say. */
  private static final int EVERY = 5;

  private static final int TRIES = 120;

  @Test
  void everyHoldingEqualsWhatTheUserCanDo() throws Exception {
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      Login login = new Login("jdbc:hsqldb:mem:estate" + seed, "SA", "");
      HsqldbServer server = new HsqldbServer();
      try (Connection admin = server.connect(login, null)) {
        Estate estate = new Estate(admin, seed, statement -> true);
        estate.build();
        assertThat(estate.done).as("statements carried out").isGreaterThan(300);
        Set<String> mismatches = mismatches(server, login, estate);
        if (!mismatches.isEmpty()) {
          mismatches.add("the estate, made small: " + shrunk(seed, estate.asked));
        }
        assertThat(mismatches)
            .as("HSQLDB, seed %d: %d mismatches", seed, mismatches.size())
            .isEmpty();
        if (seed % EVERY == 0) {
          RoundTrip.tightened(server, login, seed, 3);
        }
        if (seed % (2 * EVERY) == 0) {
          CharterTrip.of(server, login, seed);
        } else {
          CharterTrip.adopted(server, login, seed);
        }
        RoundTrip.of(server, login, seed, 25);
        execute(admin, "SHUTDOWN");
      }
    }
  }

  private static Set<String> mismatches(HsqldbServer server, Login login, Estate estate)
      throws Exception {
    Access access = server.survey(login, "real", List.of(), Instant.now(), note -> {});
    Set<String> mismatches = new TreeSet<>();
    for (String user : estate.users) {
      // some users are missing in an estate that is made small
      if (access.principals().named(user) < 0 || access.principals().named("somebody") < 0) {
        continue;
      }
      try (Connection session = server.connect(login, null);
          Connection nobody = server.connect(login, null)) {
        nobody.setAutoCommit(false);
        execute(nobody, "SET SESSION AUTHORIZATION 'somebody'");
        session.setAutoCommit(false);
        execute(session, "SET SESSION AUTHORIZATION '" + user.replace("'", "''") + "'");
        new Comparison(access, estate, user, session, nobody, mismatches).compare();
      }
    }
    return mismatches;
  }

  /** Leaves out of an estate what the mismatch does without; gives the file with what is left. */
  private static Path shrunk(int seed, int statements) throws Exception {
    HsqldbServer server = new HsqldbServer();
    Login login = new Login("jdbc:hsqldb:mem:shrunk" + seed, "SA", "");
    Path file = Path.of("target/hsqldb-" + seed + ".sql");
    new Shrinking(TRIES)
        .of(
            statements,
            kept -> {
              try (Connection admin = server.connect(login, null)) {
                Estate fewer = new Estate(admin, seed, kept);
                fewer.build();
                boolean wrong = !mismatches(server, login, fewer).isEmpty();
                if (wrong) {
                  Files.write(file, fewer.script);
                }
                execute(admin, "SHUTDOWN");
                return wrong;
              }
            });
    return file;
  }

  private static void execute(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private static String q(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  /** What one user holds, by us and by trying. */
  private static final class Comparison {
    private final Access access;
    private final Tree tree;
    private final String user;
    private final Connection session;
    private final Set<String> mismatches;
    private final Set<String> live = new HashSet<>();
    private final Set<String> grantable = new HashSet<>();
    private final Estate estate;
    private final Connection nobody;

    Comparison(
        Access access,
        Estate estate,
        String user,
        Connection session,
        Connection nobody,
        Set<String> mismatches) {
      this.access = access;
      this.estate = estate;
      this.tree = access.tree();
      this.user = user;
      this.session = session;
      this.nobody = nobody;
      this.mismatches = mismatches;
      for (Holding row :
          new Holdings(access, Clock.systemUTC(), false).of(access.principals().named(user))) {
        if (row.state() != State.LIVE) {
          continue;
        }
        String key = row.privilege() + " " + row.node();
        if (row.columns() == null) {
          live.add(key);
          if (row.grantable()) {
            grantable.add(key);
          }
        }
        for (int column = 0; column < tree.columns(row.node()); column++) {
          if (row.columns() == null || row.columns().get(column)) {
            live.add(key + " " + column);
          }
        }
      }
    }

    void compare() throws SQLException {
      List<Integer> objects = new ArrayList<>();
      for (int node = 0; node < tree.size(); node++) {
        if (tree.kind(node).isObject() && !tree.isSystem(node)) {
          objects.add(node);
        }
      }
      for (int node : objects) {
        switch (tree.kind(node)) {
          case TABLE -> table(node);
          case VIEW -> view(node);
          case SEQUENCE ->
              expect(live.contains("USAGE " + node), "CALL NEXT VALUE FOR " + name(node));
          case ROUTINE -> expect(live.contains("EXECUTE " + node), "CALL " + routine(node) + "(1)");
          default -> throw new AssertionError(tree.kind(node));
        }
      }
      // last, because a grant that works is committed
      for (int node : objects) {
        if (tree.kind(node) == NodeKind.TABLE) {
          expectGrantable(node, Privilege.SELECT, "SELECT a FROM " + name(node));
          expectGrantable(node, Privilege.DELETE, "DELETE FROM " + name(node));
        }
      }
    }

    /**
     * A grant without the right to it is not refused, it does nothing; so the grantee has to try.
     */
    private void expectGrantable(int node, Privilege privilege, String sql) throws SQLException {
      boolean already = worked(nobody, sql);
      nobody.rollback();
      if (already) {
        return; // everybody can
      }
      try {
        execute(session, "GRANT " + privilege + " ON TABLE " + name(node) + " TO \"nobody\"");
      } catch (SQLException refused) {
        // then the grantee cannot do it either
      }
      boolean works = grantable.contains(privilege + " " + node);
      if (worked(nobody, sql) != works) {
        mismatches.add(user + " passing on " + sql + ": worked " + !works + ", we say " + works);
      }
      nobody.rollback();
      execute(
          estate.admin,
          "REVOKE ALL PRIVILEGES ON TABLE " + name(node) + " FROM \"nobody\" RESTRICT");
    }

    private void table(int node) throws SQLException {
      String name = name(node);
      boolean readsAll = true;
      for (int column = 0; column < tree.columns(node); column++) {
        String c = q(tree.column(node, column));
        boolean reads = live.contains("SELECT " + node + " " + column);
        readsAll &= reads;
        expect(reads, "SELECT " + c + " FROM " + name);
        expect(
            live.contains("INSERT " + node + " " + column),
            "INSERT INTO " + name + " (" + c + ") VALUES (1)");
        expect(
            live.contains("UPDATE " + node + " " + column),
            "UPDATE " + name + " SET " + c + " = 1");
      }
      expect(readsAll, "SELECT * FROM " + name);
      expect(live.contains("DELETE " + node), "DELETE FROM " + name);
    }

    private void view(int node) throws SQLException {
      for (int column = 0; column < tree.columns(node); column++) {
        String c = q(tree.column(node, column));
        expect(
            live.contains("SELECT " + node + " " + column), "SELECT " + c + " FROM " + name(node));
      }
    }

    private String name(int node) {
      return q(tree.name(tree.parent(node))) + "." + q(tree.name(node));
    }

    private String routine(int node) {
      String name = tree.name(node);
      return q(tree.name(tree.parent(node))) + "." + q(name.substring(0, name.lastIndexOf('(')));
    }

    private void expect(boolean works, String sql) throws SQLException {
      boolean worked = worked(session, sql);
      session.rollback();
      if (worked != works) {
        mismatches.add(user + ": " + sql + ": worked " + worked + ", we say " + works);
      }
    }

    private static boolean worked(Connection as, String sql) {
      try {
        execute(as, sql);
        return true;
      } catch (SQLException refused) {
        return !isRefusal(refused);
      }
    }

    private static boolean isRefusal(SQLException refused) {
      return refused.getSQLState().startsWith("42") || refused.getSQLState().startsWith("0L");
    }
  }

  /** A random estate. */
  private static final class Estate {
    private static final String[] ODD = {
      "UP%d", "with blank %d", "dot.ted%d", "quo\"te%d", "ünï%d", "semi;%d", "it's%d", "PLAIN_%d"
    };
    private static final String[] WHAT = {
      "SELECT", "INSERT", "UPDATE", "DELETE", "REFERENCES", "TRIGGER", "ALL PRIVILEGES"
    };
    private final Connection admin;
    private final Random random;
    final List<String> users;
    final List<String> roles;
    private final List<String> schemas = new ArrayList<>();
    private final List<String> tables = new ArrayList<>();
    private final List<String> others = new ArrayList<>();
    private final IntPredicate kept;
    final List<String> script = new ArrayList<>();
    int asked;
    int done;

    /** Of whose statements those are carried out that are kept, by number. */
    Estate(Connection admin, long seed, IntPredicate kept) {
      this.kept = kept;
      this.admin = admin;
      this.random = new Random(seed);
      this.users = IntStream.range(0, 30).mapToObj(i -> "u" + odd(i)).toList();
      this.roles = IntStream.range(0, 30).mapToObj(i -> "r" + odd(i)).toList();
    }

    private String odd(int i) {
      return ODD[(i + random.nextInt(2)) % ODD.length].formatted(i);
    }

    private <T> T any(List<T> list) {
      return list.get(random.nextInt(list.size()));
    }

    private String any(String... words) {
      return words[random.nextInt(words.length)];
    }

    private boolean chance(int percent) {
      return random.nextInt(100) < percent;
    }

    private void run(String sql) {
      if (!kept.test(asked++)) {
        return;
      }
      try {
        execute(admin, sql);
        script.add(sql + ";");
        done++;
      } catch (SQLException senseless) {
        // random statements may be refused; then nothing happens
      }
    }

    void build() {
      roles.forEach(role -> run("CREATE ROLE " + q(role)));
      users.forEach(user -> run("CREATE USER " + q(user) + " PASSWORD 'x'"));
      run("CREATE ROLE \"nobody\"");
      run("CREATE USER \"somebody\" PASSWORD 'x'");
      run("GRANT \"nobody\" TO \"somebody\"");
      for (int i = 0; i < 60; i++) {
        String role = any(roles);
        String member = chance(50) ? any(users) : any(roles);
        run("GRANT " + q(role) + " TO " + q(member));
      }
      run("GRANT DBA TO " + q(any(users)));
      run("GRANT DBA TO " + q(roles.get(29)));
      for (int i = 0; i < 5; i++) {
        String schema = q("s" + odd(i));
        schemas.add(schema);
        String owner = chance(30) ? "DBA" : chance(70) ? q(any(roles)) : q(any(users));
        run("CREATE SCHEMA " + schema + " AUTHORIZATION " + owner);
      }
      for (int i = 0; i < 64; i++) {
        object(i);
      }
      for (int i = 0; i < 170; i++) {
        grant();
      }
      for (int i = 0; i < 15; i++) {
        run("REVOKE " + any(WHAT) + " ON TABLE " + any(tables) + " FROM " + anyone() + " RESTRICT");
      }
    }

    private void object(int i) {
      String name = any(schemas) + "." + q("o" + odd(i));
      int dice = i < 20 ? 0 : random.nextInt(10);
      if (dice < 6) {
        run("CREATE TABLE " + name + " (a int, b int, \"odd C\" int)");
        tables.add(name);
      } else if (dice == 6) {
        run("CREATE VIEW " + name + " AS SELECT a, b FROM " + any(tables));
        others.add("TABLE " + name);
      } else if (dice == 7) {
        run("CREATE SEQUENCE " + name);
        others.add("SEQUENCE " + name);
      } else if (dice == 8) {
        run("CREATE FUNCTION " + name + "(x int) RETURNS int RETURN x + 1");
        others.add("FUNCTION " + name);
      } else {
        run(
            "CREATE PROCEDURE "
                + name
                + "(IN x int) MODIFIES SQL DATA BEGIN ATOMIC DECLARE y int;"
                + " SET y = x; END");
        others.add("PROCEDURE " + name);
      }
    }

    private String anyone() {
      return chance(4) ? "PUBLIC" : chance(40) ? q(any(users)) : q(any(roles));
    }

    private void grant() {
      String option = chance(25) ? " WITH GRANT OPTION" : "";
      if (chance(45)) {
        run("GRANT " + any(WHAT) + " ON TABLE " + any(tables) + " TO " + anyone() + option);
      } else if (chance(60)) {
        String columns = any("(a)", "(b)", "(a, b)", "(\"odd C\")");
        run(
            "GRANT "
                + any("SELECT", "INSERT", "UPDATE", "REFERENCES")
                + columns
                + " ON TABLE "
                + any(tables)
                + " TO "
                + anyone()
                + option);
      } else {
        String object = any(others);
        String what =
            object.startsWith("TABLE") ? "SELECT" : object.startsWith("SEQ") ? "USAGE" : "EXECUTE";
        run("GRANT " + what + " ON " + object + " TO " + anyone() + option);
      }
    }
  }
}
