package fiador.servers.mariadb;

import static fiador.servers.UnderNameScenario.outcome;
import static fiador.servers.UnderNameScenario.wanted;
import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.wanted.ViewPlace;
import fiador.servers.UnderNameChecks;
import fiador.servers.UnderNameScenario;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A table of MariaDB whose view stands under its name is read as it was before. */
final class MariadbUnderNameTest extends UnderNameChecks {
  private static final String COLUMNS =
      " (id integer PRIMARY KEY AUTO_INCREMENT, name varchar(30) COLLATE latin1_bin NOT NULL,"
          + " phone varchar(20), district varchar(20) DEFAULT 'north', due decimal(8,2) DEFAULT 1.50,"
          + " code char(5) DEFAULT 'ab')";
  private static final String ROWS =
      " (name, phone, district) VALUES ('abc', '555-0101', 'north'), ('bcd', '555-2', 'hills'),"
          + " ('cde', NULL, 'north'), ('def', '555-4', NULL)";

  MariadbUnderNameTest() {
    super("ann", "eve", "42000", "42S02");
  }

  @Override
  protected void with(Told told) throws Exception {
    Login login = RealMariadb.login();
    RandomMariadb.clear(login);
    try (Connection admin = new MariadbServer().connect(login, null);
        Statement statement = admin.createStatement()) {
      for (String sql :
          List.of(
              "CREATE DATABASE shop CHARACTER SET latin1",
              "CREATE TABLE shop.people" + COLUMNS,
              "CREATE TABLE shop.twin" + COLUMNS,
              "INSERT INTO shop.people" + ROWS,
              "INSERT INTO shop.twin" + ROWS,
              "CREATE TABLE shop.orders (id integer PRIMARY KEY, who integer REFERENCES"
                  + " shop.people(id))")) {
        statement.execute(sql);
      }
      try {
        told.tell(new UnderNameScenario(new MariadbServer(), login, null), admin);
      } finally {
        statement.execute("DROP DATABASE shop");
        statement.execute("DROP DATABASE IF EXISTS fiador_guard");
        RandomMariadb.clear(statement);
      }
    }
  }

  @Override
  protected List<String> grants(Connection admin) {
    return outcome(
        admin,
        "SELECT user, table_name, table_priv, column_priv FROM mysql.tables_priv WHERE db = 'shop'"
            + " ORDER BY 1, 2");
  }

  @Test
  void whoSeesAllReadsWhatTheTableGave() throws Exception {
    with(
        (scenario, admin) -> {
          scenario.settle(wanted(ViewPlace.UNDER_NAME, "keep_last(2)"));
          try (Connection eve = scenario.as("eve")) {
            for (String sql :
                List.of(
                    "SELECT * FROM shop.%s ORDER BY id",
                    "SELECT name FROM shop.%s WHERE name > 'BCD' ORDER BY name",
                    "SELECT count(*), max(district) FROM shop.%s WHERE district = 'NORTH'",
                    "SELECT upper(phone), sum(due) FROM shop.%s GROUP BY phone ORDER BY 1")) {
              List<String> same = outcome(eve, sql.formatted("twin"));
              assertThat(outcome(eve, sql.formatted("people"))).as(sql).isEqualTo(same);
            }
            outcome(eve, "SET ROLE writers");
            assertThat(outcome(eve, "INSERT INTO shop.people_base (name) VALUES ('new')"))
                .containsExactly("1 changed");
          }
        });
  }
}
