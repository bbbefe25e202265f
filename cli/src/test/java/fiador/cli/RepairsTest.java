package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The statements that a finding shows run on the server, and mend it. */
class RepairsTest {
  private static final int ROUNDS = 5;

  @TempDir Path folder;

  /**
   * Runs what is shown for one finding after the other, each in a transaction as a script would.
   */
  private void mend(RealEstate estate, String finding) throws Exception {
    for (int round = 0; round < ROUNDS; round++) {
      estate.fiador("survey");
      List<String> found =
          estate.asked("findings", finding, "--format", "jsonl").out.lines().toList();
      assertThat(round > 0 || !found.isEmpty()).as(finding).isTrue();
      if (found.isEmpty()) {
        return;
      }
      try (Connection connection = estate.connect(estate.login.user(), estate.login.password());
          Statement statement = connection.createStatement()) {
        connection.setAutoCommit(false);
        for (JsonNode sql : new ObjectMapper().readTree(found.get(0)).get("statements")) {
          statement.execute(sql.asText());
        }
        connection.commit();
      }
    }
    throw new AssertionError(finding + " is not mended in " + ROUNDS + " rounds");
  }

  @Test
  void theRightToGrantOfOneWhoGaveItOn() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "create role e_giver login",
            "create role e_second login",
            "create role e_taker login",
            "grant usage on schema s to e_giver, e_second, e_taker",
            "grant select, update on s.t to e_giver with grant option");
    estate.as("e_giver", "", "grant select on s.t to e_second with grant option");
    estate.as("e_second", "", "grant select on s.t to e_taker");
    estate.run("revoke usage on schema s from e_giver");
    estate.charter("roles: {}\n");
    mend(estate, "grant-option");
    assertThat(estate.ask("select has_table_privilege('e_taker', 's.t', 'select')::text"))
        .containsExactly("true");
  }

  @Test
  void oneColumnOfSeveralIsTakenAlone() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int, b int, c int)",
            "create role e_ines login",
            "grant usage on schema s to e_ines",
            "grant select (a, b, c) on s.t to e_ines");
    estate.charter("roles: {}\n").fiador("survey");
    Program sever = estate.asked("sever", "e_ines", "select", "s.t.a", "--format", "jsonl");
    assertThat(sever.out)
        .contains("REVOKE SELECT (\\\"a\\\") ON TABLE")
        .contains("\"lost_besides\":0");
  }
}
