package fiador.standin.serving;

import static fiador.standin.serving.Trial.no;
import static fiador.standin.serving.Trial.rows;
import static fiador.standin.serving.Trial.run;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Views on views on views: read within any query, and not planned for ever. */
@Timeout(120)
class ViewsApartTest {
  private static final int DEEP = 14;
  private static final String TOP = "dw.s.v" + DEEP;

  @TempDir private Path folder;
  private Trial trial;
  private Connection keeper;
  private Connection ana;

  @BeforeEach
  void begin() throws Exception {
    trial = Trial.in(folder);
    keeper = trial.keeper();
    run(
        keeper,
        """
        CREATE USER ana PASSWORD 's';
        CREATE DATABASE dw;
        CREATE SCHEMA dw.s;
        CREATE TABLE dw.s.t (a integer, b varchar(20));
        CREATE TABLE dw.s.copy (a integer, b varchar(20));
        INSERT INTO dw.s.t VALUES (1, 'one'), (2, 'two');
        GRANT USAGE ON SCHEMA dw.s TO EVERYBODY;
        CREATE VIEW dw.s.v0 AS SELECT a, b FROM dw.s.t;
        """);
    for (int i = 1; i <= DEEP; i++) {
      String below = "dw.s.v" + (i - 1);
      run(
          keeper,
          "CREATE VIEW dw.s.v"
              + i
              + " AS SELECT x.a, x.b FROM "
              + below
              + " x WHERE x.a IN (SELECT y.a FROM "
              + below
              + " y)");
    }
    run(keeper, "GRANT SELECT (a) ON " + TOP + " TO ana");
    ana = trial.as("ana");
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  @Test
  void theyAreReadInAnyQuery() throws Exception {
    assertThat(rows(keeper, "SELECT a, b FROM " + TOP + " ORDER BY a"))
        .containsExactly("1|one", "2|two");
    assertThat(rows(keeper, "SELECT count(*) FROM " + TOP + " p JOIN " + TOP + " q ON p.a = q.a"))
        .containsExactly("2");
    assertThat(rows(keeper, "WITH mine AS (SELECT a FROM " + TOP + ") SELECT max(a) FROM mine"))
        .containsExactly("2");
    assertThat(
            rows(keeper, "(SELECT a FROM " + TOP + ") UNION SELECT a + 1 FROM dw.s.v0 ORDER BY 1"))
        .containsExactly("1", "2", "3");
    assertThat(
            rows(
                keeper,
                "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3)"
                    + " SELECT n.i FROM n JOIN "
                    + TOP
                    + " v ON v.a = n.i ORDER BY 1"))
        .containsExactly("1", "2");
    run(keeper, "INSERT INTO dw.s.copy SELECT a, b FROM " + TOP);
    run(keeper, "INSERT INTO dw.s.copy VALUES ((SELECT max(a) + 5 FROM " + TOP + "), 'x')");
    run(keeper, "DELETE FROM dw.s.copy WHERE a IN (SELECT a FROM " + TOP + " WHERE b = 'one')");
    run(
        keeper,
        "UPDATE dw.s.copy SET b = (WITH m AS (SELECT max(b) AS b FROM "
            + TOP
            + ") SELECT b FROM m) WHERE EXISTS (SELECT 1 FROM "
            + TOP
            + " v WHERE v.a = copy.a)");
    assertThat(rows(keeper, "SELECT b FROM dw.s.copy ORDER BY a")).containsExactly("two", "x");
    assertThat(rows(keeper, "SELECT a FROM dw.s.copy ORDER BY a")).containsExactly("2", "7");
  }

  @Test
  void mistakesAreSaidInTheNamesOfWhoMadeThem() throws Exception {
    String nothing = no(keeper, "SELECT nothing FROM " + TOP);
    assertThat(nothing).contains("NOTHING").doesNotContainPattern("V[0-9A-F]{24}");
    String both = no(keeper, "SELECT a FROM " + TOP + " p, " + TOP + " q");
    assertThat(both).doesNotContainPattern("V[0-9A-F]{24}");
    assertThat(no(keeper, "SELECT count(a, 1) FROM " + TOP)).doesNotContainPattern("V[0-9A-F]{24}");
  }

  @Test
  void whatMayNotBeReadIsNotThereBehindANameEither() throws Exception {
    assertThat(rows(ana, "SELECT a FROM " + TOP + " WHERE a > 1")).containsExactly("2");
    assertThat(no(ana, "SELECT b FROM " + TOP)).startsWith("42501");
    assertThat(no(ana, "SELECT * FROM " + TOP)).startsWith("42501");
    assertThat(no(ana, "SELECT p.a FROM " + TOP + " p WHERE p.b = 'one'")).startsWith("42501");
    assertThat(no(ana, "SELECT a FROM dw.s.v3")).startsWith("42501");
    run(keeper, "REVOKE SELECT (a) ON " + TOP + " FROM ana");
    assertThat(no(ana, "SELECT a FROM " + TOP)).startsWith("42501");
  }
}
