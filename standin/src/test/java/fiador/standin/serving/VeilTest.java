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

/** Veils: rows that are not there for everybody, and what stands in the place of values. */
class VeilTest {
  private static final String HOUSE = Trial.HOUSE.replace("digests,", "digests, veils tables,");

  @TempDir private Path folder;
  private Trial trial;
  private Connection keeper;

  @BeforeEach
  void begin() throws Exception {
    trial = Trial.in(folder, HOUSE);
    keeper = trial.keeper();
    run(
        keeper,
        """
        CREATE USER ana PASSWORD 's';
        CREATE USER bo PASSWORD 's';
        CREATE ROLE clerks;
        CREATE ROLE seniors;
        GRANT ROLE clerks TO seniors;
        GRANT ROLE seniors TO bo;
        ALTER USER ana SET 'districts' TO 'north', 'it''s';
        CREATE DATABASE dw;
        CREATE SCHEMA dw.s;
        CREATE TABLE dw.s.t (id integer, district varchar(20), phone varchar(20), "value" integer);
        INSERT INTO dw.s.t VALUES (1, 'north', 'a😀b', 10), (2, 'south', '123456', 20), (3, 'it''s', NULL, 30);
        GRANT USAGE ON SCHEMA dw.s TO EVERYBODY;
        GRANT SELECT, UPDATE, DELETE ON dw.s.t TO EVERYBODY;
        VEIL dw.s.t ROWS (district IN (SELECT a.value FROM asker.attributes a WHERE a.attribute = 'districts')
          OR 'clerks' IN (SELECT r.name FROM asker.roles r));
        VEIL dw.s.t COLUMN phone AS (CASE WHEN 'seniors' IN (SELECT r.name FROM asker.roles r) THEN phone
          ELSE REPEAT('*', CHAR_LENGTH(phone) - 1) || SUBSTRING(phone, CHAR_LENGTH(phone), 1) END);
        """);
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  @Test
  void everybodySeesWhatIsTheirs() throws SQLException {
    try (Connection ana = trial.as("ana");
        Connection bo = trial.as("bo")) {
      assertThat(rows(ana, "SELECT id, phone FROM dw.s.t ORDER BY id"))
          .containsExactly("1|**b", "3|null");
      assertThat(rows(ana, "SELECT count(*) FROM dw.s.t WHERE phone = 'a😀b'"))
          .containsExactly("0");
      assertThat(rows(bo, "SELECT id, phone FROM dw.s.t ORDER BY id"))
          .containsExactly("1|a😀b", "2|123456", "3|null");
      assertThat(rows(keeper, "SELECT id FROM dw.s.t ORDER BY id")).containsExactly("1", "2", "3");
      run(keeper, "ACT AS ana");
      assertThat(rows(keeper, "SELECT id FROM dw.s.t ORDER BY id")).containsExactly("1", "3");
    }
  }

  @Test
  void noViewAndNoChangeGetsRoundIt() throws SQLException {
    run(
        keeper,
        """
        CREATE VIEW dw.s.v AS SELECT id, phone FROM dw.s.t;
        GRANT SELECT ON dw.s.v TO EVERYBODY;
        """);
    try (Connection ana = trial.as("ana")) {
      assertThat(rows(ana, "SELECT id, phone FROM dw.s.v ORDER BY id"))
          .containsExactly("1|**b", "3|null");
      assertThat(no(ana, "UPDATE dw.s.t SET id = 9 WHERE phone = '123456'"))
          .isEqualTo("42501 ana sees no true value of phone in table dw.s.t");
      run(ana, "UPDATE dw.s.t SET id = id + 10");
      run(ana, "DELETE FROM dw.s.t WHERE district = 'south' OR id = 13");
      assertThat(rows(keeper, "SELECT id FROM dw.s.t ORDER BY id")).containsExactly("2", "11");
      for (String sql :
          new String[] {
            "VEIL dw.s.t ROWS (TRUE)",
            "UNVEIL dw.s.t ROWS",
            "UNVEIL dw.s.t COLUMN phone",
            "NOTE dw.s.t 'mine'",
            "ALTER USER ana SET 'districts' TO 'south'"
          }) {
        assertThat(no(ana, sql)).as(sql).startsWith("42501");
      }
      assertThat(no(ana, "SELECT * FROM asker.roles")).startsWith("42000");
    }
  }

  @Test
  void whoOwnsATableIsVeiledToo() throws SQLException {
    run(keeper, "ALTER TABLE dw.s.t OWNER TO ana");
    try (Connection ana = trial.as("ana")) {
      assertThat(rows(ana, "SELECT id FROM dw.s.t ORDER BY id")).containsExactly("1", "3");
      assertThat(no(ana, "UNVEIL dw.s.t ROWS")).startsWith("42501");
    }
  }

  @Test
  void aNoteHoldsUntilTheVeilIsChangedAndAllOfItIsKept() throws Exception {
    run(keeper, "NOTE dw.s.t 'as the charter says'");
    trial.close();
    trial = Trial.in(folder, HOUSE);
    keeper = trial.keeper();
    assertThat(rows(keeper, "SELECT masked, note, as_noted FROM catalog.veils"))
        .containsExactly("phone|as the charter says|yes");
    assertThat(rows(keeper, "SELECT * FROM catalog.attributes"))
        .containsExactlyInAnyOrder("ana|districts|north", "ana|districts|it's");
    try (Connection ana = trial.as("ana")) {
      assertThat(rows(ana, "SELECT id FROM dw.s.t ORDER BY id")).containsExactly("1", "3");
    }
    run(keeper, "UNVEIL dw.s.t COLUMN phone");
    assertThat(rows(keeper, "SELECT masked, note, as_noted FROM catalog.veils"))
        .containsExactly("|as the charter says|no");
    run(keeper, "ALTER USER ana SET 'districts' TO NONE");
    try (Connection ana = trial.as("ana")) {
      assertThat(rows(ana, "SELECT id FROM dw.s.t")).isEmpty();
    }
    run(keeper, "UNVEIL dw.s.t ROWS");
    run(keeper, "NOTE dw.s.t ''");
    assertThat(rows(keeper, "SELECT * FROM catalog.veils")).isEmpty();
  }

  @Test
  void whatCannotBeWorkedOutLiesOverNothing() throws SQLException {
    for (String sql :
        new String[] {
          "VEIL dw.s.t ROWS (nothing = 1)",
          "VEIL dw.s.t ROWS (id IN (SELECT id FROM dw.s.t))",
          "VEIL dw.s.t ROWS (1 = (SELECT count(*) FROM catalog.uses))",
          "VEIL dw.s.t ROWS (FILE_READ('/etc/passwd') = 'x')",
          "VEIL dw.s.t COLUMN phone AS (\"TEXTS\".\"REPEATED\"('x', 9))",
          "VEIL dw.s.t COLUMN nothing AS ('x')",
          "VEIL SCHEMA dw.s ROWS (TRUE)",
          "VEIL dw.s.t ROWS (TRUE) OR (TRUE)",
        }) {
      assertThat(no(keeper, sql)).as(sql).startsWith("42000");
    }
  }
}
