package fiador.servers.statements;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.hsqldb.HsqldbServer;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Statements on HSQLDB. More seeds: {@code -Dfiador.seeds=50 -Dfiador.seed=100}. */
final class HsqldbStatementTest {
  private static final int SEEDS = Integer.getInteger("fiador.seeds", 2);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  private record House(Login login) implements StatementConformance.House {
    @Override
    public Connection admin() throws SQLException {
      return DriverManager.getConnection(login.url(), "SA", "");
    }

    @Override
    public Connection as(String user) throws SQLException {
      return DriverManager.getConnection(login.url(), user.toUpperCase(Locale.ROOT), user);
    }

    @Override
    public String user(String name) {
      return "CREATE USER " + name + " PASSWORD '" + name + "'";
    }

    @Override
    public List<String> function() {
      return List.of(
          "CREATE FUNCTION s1.twice(n INTEGER) RETURNS INTEGER SPECIFIC s1.twice RETURN n * 2");
    }

    /** Who may not see a thing is told that it is not there; a MERGE that is refused falls over. */
    @Override
    public boolean refused(SQLException said) {
      return Set.of(-5501, -5504, -458).contains(said.getErrorCode());
    }

    @Override
    public String takesDownAll() {
      return "SHUTDOWN";
    }

    @Override
    public List<String> privileges() {
      return List.of("SELECT", "INSERT", "UPDATE", "DELETE");
    }

    @Override
    public List<String> onSchemas() {
      return List.of();
    }

    @Override
    public Set<String> can() {
      return Set.of("MERGE", "CHANGED_IN_SUBQUERY", "TRUNCATE");
    }
  }

  @Test
  void whatIsAllowedIsWhatIsWorkedOut() throws Exception {
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      Login login = new Login("jdbc:hsqldb:mem:statements" + seed, "SA", "");
      assertThat(
              new StatementConformance(new HsqldbServer(), login, new House(login), seed)
                  .mismatches())
          .as("seed %d", seed)
          .isEmpty();
    }
  }
}
