package fiador.servers.statements;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.jdbc.Login;
import fiador.servers.postgresql.PostgresqlServer;
import fiador.servers.postgresql.RealPostgresql;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Statements on PostgreSQL. More seeds: {@code -Dfiador.seeds=50 -Dfiador.seed=100}. */
final class PostgresqlStatementTest {
  private static final int SEEDS = Integer.getInteger("fiador.seeds", 2);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  private record House(Login login) implements StatementConformance.House {
    @Override
    public Connection admin() throws SQLException {
      return DriverManager.getConnection(login.url(), "postgres", "");
    }

    @Override
    public Connection as(String user) throws SQLException {
      return DriverManager.getConnection(login.url(), user, "");
    }

    @Override
    public String user(String name) {
      return "CREATE ROLE " + name + " LOGIN";
    }

    @Override
    public List<String> function() {
      return List.of(
          "CREATE FUNCTION s1.twice(n INT) RETURNS INT LANGUAGE sql AS 'SELECT n * 2'",
          "REVOKE ALL ON FUNCTION s1.twice FROM PUBLIC");
    }

    @Override
    public boolean refused(SQLException said) {
      return "42501".equals(said.getSQLState());
    }

    @Override
    public List<String> privileges() {
      return List.of("SELECT", "INSERT", "UPDATE", "DELETE", "TRUNCATE");
    }

    @Override
    public List<String> onSchemas() {
      return List.of("USAGE ON SCHEMA %s", "CREATE ON SCHEMA %s");
    }

    @Override
    public Set<String> can() {
      return Set.of(
          "MERGE",
          "RETURNING",
          "ON_CONFLICT",
          "UPDATE_FROM",
          "DELETE_USING",
          "TRUNCATE",
          "LOCKS",
          "CHANGED_IN_SUBQUERY",
          "FORGETS_UNUSED",
          "CHECKS_VIEWS_BESIDE_SUBQUERIES");
    }

    @Override
    public boolean transactional() {
      return true;
    }
  }

  @Test
  void whatIsAllowedIsWhatIsWorkedOut() throws Exception {
    Login login = RealPostgresql.login(18);
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      assertThat(
              new StatementConformance(new PostgresqlServer(), login, new House(login), seed)
                  .mismatches())
          .as("seed %d", seed)
          .isEmpty();
    }
  }
}
