package fiador.servers.statements;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.jdbc.Login;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.mariadb.RealMariadb;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Statements on MariaDB. More seeds: {@code -Dfiador.seeds=50 -Dfiador.seed=100}. */
final class MariadbStatementTest {
  private static final int SEEDS = Integer.getInteger("fiador.seeds", 2);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  private record House(Login login) implements StatementConformance.House {
    /**
     * What the server says when a command, a column, a schema, a routine is denied; or a view's
     * inside.
     */
    private static final Set<Integer> DENIED = Set.of(1142, 1143, 1044, 1370, 1356);

    @Override
    public Connection admin() throws SQLException {
      return DriverManager.getConnection(login.url(), "root", "");
    }

    @Override
    public Connection as(String user) throws SQLException {
      return DriverManager.getConnection(login.url(), user, user);
    }

    @Override
    public String user(String name) {
      return "CREATE USER " + grantee(name) + " IDENTIFIED BY '" + name + "'";
    }

    @Override
    public List<String> function() {
      return List.of("CREATE FUNCTION s1.twice(n INT) RETURNS INT DETERMINISTIC RETURN n * 2");
    }

    @Override
    public boolean refused(SQLException said) {
      return DENIED.contains(said.getErrorCode());
    }

    @Override
    public List<String> privileges() {
      return List.of("SELECT", "INSERT", "UPDATE", "DELETE", "DROP");
    }

    @Override
    public List<String> onSchemas() {
      return List.of("CREATE ON %s.*", "CREATE VIEW ON %s.*", "INSERT ON %s.*", "SELECT ON %s.*");
    }

    @Override
    public Set<String> can() {
      return Set.of("TRUNCATE", "LOCKS", "CHECKS_VIEWS_BESIDE_SUBQUERIES");
    }

    @Override
    public String grantee(String user) {
      return user.startsWith("nw") ? user + "@'127.0.0.1'" : user;
    }
  }

  @Test
  void whatIsAllowedIsWhatIsWorkedOut() throws Exception {
    Login login = RealMariadb.login();
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      assertThat(
              new StatementConformance(new MariadbServer(), login, new House(login), seed)
                  .mismatches())
          .as("seed %d", seed)
          .isEmpty();
    }
  }
}
