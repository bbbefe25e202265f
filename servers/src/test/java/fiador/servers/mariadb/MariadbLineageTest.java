package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.rules.MariadbRules;
import fiador.servers.LineageConformance;
import fiador.servers.SqlTextConformance;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What the columns of MariaDB's views show is what a survey says. */
final class MariadbLineageTest {
  private static final LineageConformance.Manner MANNER =
      new LineageConformance.Manner(
          "`",
          "it`s",
          true,
          "group_concat(%s ORDER BY %s)",
          "VARCHAR(200)",
          "",
          "CREATE FUNCTION %s() RETURNS TEXT READS SQL DATA RETURN (%s)",
          false);

  @Test
  void textsAreReadAsTheServerDoes() throws Exception {
    try (Connection admin = new MariadbServer().connect(RealMariadb.login(), null)) {
      SqlTextConformance.check(admin, MariadbRules.of(10, 11), "", "", 3_000);
    }
  }

  @Test
  void routinesReadWhatTheirBodiesName() throws Exception {
    Login login = RealMariadb.login();
    try (Connection admin = new MariadbServer().connect(login, null);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE DATABASE body_box");
      statement.execute("CREATE TABLE body_box.t (id INT, a VARCHAR(20), b VARCHAR(20))");
      statement.execute("CREATE TABLE body_box.log (id INT, what VARCHAR(20))");
      statement.execute(
          "CREATE FUNCTION body_box.a_of(i INT) RETURNS VARCHAR(20) READS SQL DATA"
              + " RETURN (SELECT a /* not b */ FROM t WHERE t.id = i)");
      statement.execute(
          "CREATE PROCEDURE body_box.all_of() BEGIN SELECT * FROM `body_box`.`t`; END");
      statement.execute(
          "CREATE PROCEDURE body_box.note(i INT) INSERT INTO log VALUES (i, 'select b from t')");
      statement.execute(
          "CREATE PROCEDURE body_box.ask() EXECUTE IMMEDIATE 'select b from body_box.t'");
      Access access =
          Forms.of(new MariadbServer().survey(login, "box", List.of(), Instant.now(), note -> {}));
      assertThat(LineageConformance.read(access, "body_box.a_of(int)"))
          .containsExactly("t.a", "t.id");
      assertThat(LineageConformance.read(access, "body_box.all_of()"))
          .containsExactly("t.a", "t.b", "t.id");
      assertThat(LineageConformance.read(access, "body_box.note(int)")).isEmpty();
      assertThat(LineageConformance.read(access, "body_box.ask()")).containsExactly("t.b");
      statement.execute("DROP DATABASE body_box");
    }
  }

  @Test
  void columnsShowWhatTheSurveySays() throws Exception {
    Login login = RealMariadb.login();
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 1); seed++) {
      try (Connection admin = new MariadbServer().connect(login, null);
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE DATABASE view_box CHARACTER SET utf8mb4");
        new LineageConformance(new MariadbServer(), login, MANNER, seed).run(admin);
        statement.execute("DROP DATABASE view_box");
      }
    }
  }
}
