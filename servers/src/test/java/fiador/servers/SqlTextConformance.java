package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.rules.HouseRules;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Random texts in all the ways a server has to write them, with random comments between, sent to a
 * real server: what it answers is what the reader takes them for.
 */
public final class SqlTextConformance {
  private static final List<String> OPEN =
      List.of("'", "'", "E'", "e'", "N'", "U&'", "$$", "$q$", "\"", "_utf8mb4'");
  private static final List<String> CLOSE =
      List.of("'", "'", "'", "'", "'", "'", "$$", "$q$", "\"", "'");
  private static final List<String> INSIDE =
      List.of(
          "a",
          "b",
          "''",
          "\\'",
          "\\\\",
          "\\n",
          "\\x41",
          "\\101",
          "\\u0041",
          "\\0041",
          "\\+000042",
          "\"",
          "\"\"",
          "--",
          "-- ",
          "/*",
          "*/",
          "$$",
          "$",
          "#",
          "\\%",
          "\\Z",
          "\\_",
          "é",
          "`",
          "\\q");
  private static final List<String> COMMENTS =
      List.of(
          "",
          "",
          "",
          " ",
          "\n",
          " -- '\n",
          "/* ' */",
          "/* /* ' */ */",
          " # '\n",
          "/*! */",
          "/*!99999 ' */",
          "/*M!999999 ' */",
          "/*M!100100 */",
          "--'\n",
          "/*-- */");

  private final Random random;

  private SqlTextConformance(long seed) {
    this.random = new Random(seed);
  }

  /**
   * Tries so many statements.
   *
   * @param end what must stand behind a query without a table: nothing on most servers
   * @param amiss a piece that the server itself gets wrong; empty for none
   */
  public static void check(
      Connection connection, HouseRules rules, String end, String amiss, int statements)
      throws SQLException {
    long seed = Long.getLong("fiador.seed", 1);
    SqlTextConformance texts = new SqlTextConformance(seed);
    SqlReader reader = new SqlReader(rules);
    int answered = 0;
    for (int i = 0; i < statements; i++) {
      String list = texts.list();
      if (!amiss.isEmpty() && list.contains(amiss)) {
        continue;
      }
      List<String> said;
      try (Statement statement = connection.createStatement();
          ResultSet row = statement.executeQuery("SELECT " + list + end)) {
        row.next();
        said = new ArrayList<>();
        for (int column = 1; column <= row.getMetaData().getColumnCount(); column++) {
          said.add(row.getString(column));
        }
      } catch (SQLException notItsLanguage) {
        continue;
      }
      List<SqlToken> tokens = reader.tokens(list);
      if (!tokens.stream().allMatch(token -> token.isText() || token.isName() || token.is(","))) {
        continue; // it is worked out from its texts
      }
      answered++;
      List<String> taken =
          tokens.stream()
              .filter(SqlToken::isText) // a name behind a text names the column
              .map(SqlToken::text)
              .toList();
      assertThat(taken).as("seed %d: %s", seed, list).isEqualTo(said);
    }
    assertThat(answered).as("statements that the server takes").isGreaterThan(statements / 10);
  }

  private String list() {
    StringBuilder list = new StringBuilder();
    for (int i = 0; i <= random.nextInt(3); i++) {
      list.append(i == 0 ? "" : ",").append(one(COMMENTS)).append(text()).append(one(COMMENTS));
      list.append(random.nextInt(4) == 0 ? "\n" + text() + " " : "");
    }
    return list.toString();
  }

  private String text() {
    int form = random.nextInt(OPEN.size());
    StringBuilder text = new StringBuilder(OPEN.get(form));
    for (int i = random.nextInt(4); i > 0; i--) {
      text.append(one(INSIDE));
    }
    return text.append(CLOSE.get(form)).toString();
  }

  private String one(List<String> of) {
    return of.get(random.nextInt(of.size()));
  }
}
