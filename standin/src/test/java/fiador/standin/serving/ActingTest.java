package fiador.standin.serving;

import static fiador.standin.serving.Trial.no;
import static fiador.standin.serving.Trial.rows;
import static fiador.standin.serving.Trial.run;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Asking as somebody else what would be allowed. */
class ActingTest {
  @TempDir private Path folder;
  private Trial trial;
  private Connection keeper;

  @BeforeEach
  void begin() throws Exception {
    trial = Trial.in(folder);
    keeper = trial.keeper();
    run(
        keeper,
        """
        CREATE USER ana PASSWORD 's';
        CREATE USER chief PASSWORD 's';
        GRANT POWER 'superuser' TO chief;
        CREATE DATABASE dw;
        CREATE SCHEMA dw.s;
        CREATE TABLE dw.s.t (a integer, b varchar(20));
        INSERT INTO dw.s.t VALUES (1, 'one');
        GRANT USAGE ON SCHEMA dw.s TO EVERYBODY;
        GRANT SELECT (a), INSERT ON dw.s.t TO ana;
        """);
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  @Test
  void whoActsAsSomebodyMayWhatTheyMay() throws SQLException {
    try (Connection chief = trial.as("chief")) {
      run(chief, "ACT AS ana");
      assertThat(rows(chief, "SELECT a FROM dw.s.t")).containsExactly("1");
      assertThat(no(chief, "SELECT b FROM dw.s.t")).startsWith("42501");
      assertThat(no(chief, "CREATE USER x PASSWORD 'x'")).startsWith("42501");
      assertThat(no(chief, "ACT AS chief")).startsWith("42501");
      assertThat(no(keeper, "ACT AS nobody")).contains("there is no user or role nobody");
      // it was the chief who did it
      assertThat(
              rows(
                  keeper,
                  "SELECT principal_name, acting_as, outcome FROM catalog.uses WHERE permission ="
                      + " 'select' AND principal_name <> 'keeper'"))
          .containsExactlyInAnyOrder("chief|ana|done", "chief|ana|refused");
      run(keeper, "REVOKE POWER 'superuser' FROM chief");
      assertThat(no(chief, "SELECT a FROM dw.s.t"))
          .isEqualTo("42501 chief may no longer act as somebody else");
    }
    try (Connection ana = trial.as("ana")) {
      assertThat(no(ana, "ACT AS keeper")).isEqualTo("42501 ana may not act as somebody else");
    }
  }

  @Test
  void whatWouldBeAllowedIsSaidAndNothingDone() throws SQLException {
    try (Connection ana = trial.as("ana")) {
      run(ana, "WOULD INSERT INTO dw.s.t (a) VALUES (2)");
      run(ana, "  would select a from dw.s.t");
      assertThat(no(ana, "WOULD SELECT b FROM dw.s.t"))
          .isEqualTo("42501 ana may not read the column b");
      assertThat(no(ana, "WOULD DELETE FROM dw.s.t WHERE 1 = 0")).startsWith("42501");
      assertThat(no(ana, "WOULD DROP TABLE dw.s.t")).contains("read or change rows");
      assertThat(no(ana, "WOULD SELECT z FROM dw.s.t")).startsWith("42000");
      assertThat(no(ana, "WOULD WOULD SELECT a FROM dw.s.t")).startsWith("42000");
    }
    assertThat(rows(keeper, "SELECT a FROM dw.s.t")).containsExactly("1");
    assertThat(rows(keeper, "SELECT * FROM catalog.uses WHERE principal_name = 'ana'")).isEmpty();
  }
}
