package fiador.standin.keeping;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class UsesTest {
  private static final int MOST = 20;

  private Connection keeper;

  @BeforeEach
  void table() throws SQLException {
    keeper = DriverManager.getConnection("jdbc:h2:mem:");
    try (Statement statement = keeper.createStatement()) {
      statement.execute("CREATE TABLE USES (USED_AT VARCHAR, PRINCIPAL_NAME VARCHAR)");
    }
  }

  @AfterEach
  void end() throws SQLException {
    keeper.close();
  }

  private static void note(Uses uses, String account, int at) throws SQLException {
    uses.note(account, List.<String[]>of(new String[] {String.format("%04d", at), account}));
  }

  private List<Integer> kept(String account) throws SQLException {
    List<Integer> found = new java.util.ArrayList<>();
    try (Statement statement = keeper.createStatement();
        ResultSet rows =
            statement.executeQuery(
                "SELECT CAST(USED_AT AS INTEGER) FROM USES WHERE PRINCIPAL_NAME = '"
                    + account
                    + "' ORDER BY 1")) {
      while (rows.next()) {
        found.add(rows.getInt(1));
      }
    }
    return found;
  }

  @Test
  void theNewestOfEachAccountStay() throws SQLException {
    Uses uses = new Uses(keeper, "USES", MOST);
    note(uses, "rui", 1);
    for (int at = 2; at < 500; at++) {
      note(uses, "ana", at);
      assertThat(kept("ana").size()).isLessThanOrEqualTo(MOST + MOST / 10);
    }
    assertThat(kept("rui")).containsExactly(1);
    assertThat(kept("ana")).endsWith(498, 499).hasSizeGreaterThanOrEqualTo(MOST);
    assertThat(kept("ana").get(0)).isGreaterThan(499 - MOST - MOST / 10 - 1);
  }

  @Test
  void whatWasThereBeforeCounts() throws SQLException {
    Uses before = new Uses(keeper, "USES", MOST);
    for (int at = 0; at < MOST; at++) {
      note(before, "ana", at);
    }
    Uses uses = new Uses(keeper, "USES", MOST);
    for (int at = MOST; at < MOST + 3; at++) {
      note(uses, "ana", at);
    }
    assertThat(kept("ana")).hasSize(MOST).startsWith(3).endsWith(MOST + 2);
  }
}
