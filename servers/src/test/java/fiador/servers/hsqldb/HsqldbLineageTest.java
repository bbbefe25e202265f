package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.rules.HsqldbRules;
import fiador.servers.LineageConformance;
import fiador.servers.SqlTextConformance;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What the columns of HSQLDB's views show is what a survey says. */
final class HsqldbLineageTest {
  private static final LineageConformance.Manner MANNER =
      new LineageConformance.Manner(
          "\"",
          "it's",
          false,
          "group_concat(%s ORDER BY %s)",
          "VARCHAR(200)",
          "",
          "CREATE FUNCTION %s() RETURNS VARCHAR(200) READS SQL DATA RETURN (%s)",
          false);

  @Test
  void textsAreReadAsTheServerDoes() throws Exception {
    Login login = new Login("jdbc:hsqldb:mem:texts", "SA", "");
    try (Connection admin = new HsqldbServer().connect(login, null)) {
      // of a code point with six digits it makes two characters
      SqlTextConformance.check(admin, HsqldbRules.rules(), "\nFROM (VALUES (0))", "\\+0", 3_000);
    }
  }

  @Test
  void routinesReadWhatTheCatalogSays() throws Exception {
    Login login = new Login("jdbc:hsqldb:mem:routines", "SA", "");
    try (Connection admin = new HsqldbServer().connect(login, null);
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE SCHEMA S AUTHORIZATION DBA");
      statement.execute("CREATE TABLE S.T (ID INTEGER, A VARCHAR(20), B VARCHAR(20))");
      statement.execute(
          "CREATE FUNCTION S.A_OF(I INTEGER) RETURNS VARCHAR(20) READS SQL DATA"
              + " RETURN (SELECT A FROM S.T WHERE ID = I)");
      statement.execute("CREATE FUNCTION S.PLAIN(I INTEGER) RETURNS INTEGER RETURN I + 1");
      Access access =
          Forms.of(new HsqldbServer().survey(login, "box", List.of(), Instant.now(), note -> {}));
      assertThat(LineageConformance.read(access, "S.A_OF(INTEGER)")).containsExactly("T.A", "T.ID");
      assertThat(LineageConformance.read(access, "S.PLAIN(INTEGER)")).isEmpty();
      statement.execute("SHUTDOWN");
    }
  }

  @Test
  void columnsShowWhatTheSurveySays() throws Exception {
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 2); seed++) {
      Login login = new Login("jdbc:hsqldb:mem:lineage" + seed, "SA", "");
      try (Connection admin = new HsqldbServer().connect(login, null);
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA \"view_box\" AUTHORIZATION DBA");
        new LineageConformance(new HsqldbServer(), login, MANNER, seed).run(admin);
        statement.execute("SHUTDOWN");
      }
    }
  }
}
