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

/** What users can do with rows, by what they were given and refused. */
class EnforcingTest {
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
        CREATE ROLE clerks;
        GRANT ROLE clerks TO ana;
        CREATE DATABASE dw;
        CREATE SCHEMA dw.s;
        CREATE TABLE dw.s.t (a integer, b varchar(20), c decimal(10, 2));
        INSERT INTO dw.s.t VALUES (1, 'one', 1.50), (2, 'two', 2.50);
        """);
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  @Test
  void whatIsGivenHigherUpComesDownOnceTheGateIsOpen() throws Exception {
    Connection ana = trial.as("ana");
    run(keeper, "GRANT SELECT ON DATABASE dw TO clerks");
    assertThat(no(ana, "SELECT a FROM dw.s.t")).isEqualTo("42501 ana may not usage on schema dw.s");
    run(keeper, "GRANT USAGE ON SCHEMA dw.s TO EVERYBODY");
    assertThat(rows(ana, "SELECT * FROM dw.s.t ORDER BY a"))
        .containsExactly("1|one|1.50", "2|two|2.50");
    assertThat(no(ana, "DELETE FROM dw.s.t")).isEqualTo("42501 ana may not delete on table dw.s.t");
  }

  @Test
  void aDenialBeatsWhatIsGivenAndCanBeLifted() throws Exception {
    run(
        keeper,
        """
        GRANT USAGE ON SCHEMA dw.s TO clerks;
        GRANT SELECT ON TABLE dw.s.t TO clerks;
        REFUSE SELECT (b) ON TABLE dw.s.t TO ana;
        """);
    Connection ana = trial.as("ana");
    assertThat(rows(ana, "SELECT a, c FROM dw.s.t WHERE a > 1")).containsExactly("2|2.50");
    assertThat(no(ana, "SELECT b FROM dw.s.t")).isEqualTo("42501 ana may not read the column b");
    assertThat(no(ana, "SELECT a FROM dw.s.t WHERE b = 'one'")).startsWith("42501");
    assertThat(no(ana, "SELECT * FROM dw.s.t"))
        .isEqualTo("42501 ana may not select all columns of dw.s.t: not b");
    assertThat(no(ana, "SELECT x.* FROM dw.s.t x")).startsWith("42501");
    assertThat(rows(ana, "SELECT count(*) FROM dw.s.t")).containsExactly("2");
    run(keeper, "LIFT SELECT (b) ON TABLE dw.s.t FOR ana");
    assertThat(rows(ana, "SELECT b FROM dw.s.t ORDER BY b")).containsExactly("one", "two");
    run(keeper, "REFUSE SELECT ON DATABASE dw TO EVERYBODY");
    assertThat(no(ana, "SELECT a FROM dw.s.t")).startsWith("42501");
    assertThat(no(keeper, "SELECT a FROM dw.s.t")).startsWith("42501");
  }

  @Test
  void aViewIsReadWithItsOwnersRightsOrTheAskers() throws Exception {
    run(
        keeper,
        """
        CREATE SCHEMA dw.open;
        CREATE VIEW dw.open.v AS SELECT a, b AS word FROM dw.s.t WHERE a = 1;
        CREATE VIEW dw.open.mine READS AS ASKER AS SELECT a FROM dw.s.t;
        GRANT USAGE ON SCHEMA dw.open TO clerks;
        GRANT SELECT ON SCHEMA dw.open TO clerks;
        """);
    Connection ana = trial.as("ana");
    assertThat(rows(ana, "SELECT word FROM dw.open.v")).containsExactly("one");
    assertThat(no(ana, "SELECT a FROM dw.open.mine"))
        .isEqualTo("42501 ana may not select on table dw.s.t");
    run(keeper, "ALTER VIEW dw.open.v OWNER TO clerks");
    assertThat(no(ana, "SELECT word FROM dw.open.v"))
        .isEqualTo("42501 clerks may not select on table dw.s.t");
    assertThat(no(ana, "INSERT INTO dw.open.v VALUES (1, 'x')")).startsWith("42000");
  }

  /** Or a view would read what somebody else makes under that name. */
  @Test
  void whatAViewReadsStays() throws Exception {
    run(keeper, "CREATE VIEW dw.s.v AS SELECT a FROM dw.s.t");
    assertThat(no(keeper, "DROP TABLE dw.s.t"))
        .isEqualTo("42000 view dw.s.v reads table dw.s.t; drop that first");
    run(keeper, "DROP VIEW dw.s.v;\nDROP TABLE dw.s.t");
    assertThat(no(keeper, "SELECT a FROM dw.s.t")).isEqualTo("42000 there is no dw.s.t");
  }

  @Test
  void rowsAreChangedByWhoMayAndDecidedByWhatOneMayRead() throws Exception {
    run(
        keeper,
        """
        GRANT USAGE ON SCHEMA dw.s TO clerks;
        GRANT INSERT (a, b) ON TABLE dw.s.t TO clerks;
        GRANT UPDATE (b) ON TABLE dw.s.t TO clerks;
        GRANT DELETE ON TABLE dw.s.t TO clerks;
        """);
    Connection ana = trial.as("ana");
    run(ana, "INSERT INTO dw.s.t (a, b) VALUES (3, 'three')");
    assertThat(no(ana, "INSERT INTO dw.s.t VALUES (4, 'four', 1)"))
        .isEqualTo("42501 ana may not insert (c) on table dw.s.t");
    run(ana, "UPDATE dw.s.t SET b = 'all'");
    assertThat(no(ana, "UPDATE dw.s.t SET b = 'x' WHERE a = 1"))
        .isEqualTo("42501 ana may not select (a) on table dw.s.t");
    assertThat(no(ana, "UPDATE dw.s.t SET a = 1")).startsWith("42501");
    assertThat(no(ana, "DELETE FROM dw.s.t x WHERE x.a = 1")).startsWith("42501");
    run(keeper, "GRANT SELECT (a) ON TABLE dw.s.t TO ana");
    run(ana, "DELETE FROM dw.s.t x WHERE x.a = 1");
    assertThat(rows(keeper, "SELECT a, b FROM dw.s.t ORDER BY a"))
        .containsExactly("2|all", "3|all");
  }

  @Test
  void whatIsGivenLaterComesWithNewThings() throws Exception {
    run(
        keeper,
        """
        GRANT USAGE ON SCHEMA dw.s TO clerks;
        GRANT SELECT ON LATER tables IN SCHEMA dw.s TO clerks;
        CREATE TABLE dw.s.fresh (a integer);
        REVOKE SELECT ON LATER tables IN SCHEMA dw.s FROM clerks;
        CREATE TABLE dw.s.other (a integer);
        """);
    Connection ana = trial.as("ana");
    assertThat(rows(ana, "SELECT a FROM dw.s.fresh")).isEmpty();
    assertThat(no(ana, "SELECT a FROM dw.s.other")).startsWith("42501");
    assertThat(rows(keeper, "SELECT * FROM catalog.later_permissions")).isEmpty();
  }

  @Test
  void whoKeepsAccountsSeesNoRowsAndMakesNoAdministrator() throws Exception {
    run(
        keeper,
        """
        CREATE USER eva PASSWORD 's';
        CREATE ROLE admins;
        GRANT POWER 'superuser' TO admins;
        GRANT POWER 'manage roles' TO eva;
        """);
    Connection eva = trial.as("eva");
    run(
        eva,
        """
        CREATE USER rui PASSWORD 's';
        GRANT ROLE clerks TO rui;
        ALTER USER rui LOCK;
        ALTER USER rui RENAME TO raul;
        """);
    assertThat(no(eva, "SELECT * FROM dw.s.t")).startsWith("42501");
    assertThat(no(eva, "GRANT ROLE admins TO eva")).startsWith("42501");
    assertThat(no(eva, "ALTER USER keeper PASSWORD 'mine'")).startsWith("42501");
    assertThat(no(eva, "GRANT POWER 'superuser' TO eva")).startsWith("42501");
    assertThat(rows(eva, "SELECT principal_name, locked FROM catalog.principals ORDER BY 1"))
        .containsExactly("admins|no", "ana|no", "clerks|no", "eva|no", "keeper|no", "raul|yes");
    assertThat(no(trial.as("ana"), "SELECT * FROM catalog.principals")).startsWith("42501");
  }

  @Test
  void whatCannotBeSaysWhatIsWrong() throws Exception {
    assertThat(no(keeper, "GRANT FLY ON TABLE dw.s.t TO ana"))
        .isEqualTo("42000 there is no fly on a table; there are [delete, insert, select, update]");
    assertThat(no(keeper, "GRANT SELECT ON TABLE dw.s.t TO nobody"))
        .isEqualTo("42000 there is no user or role nobody");
    assertThat(no(keeper, "CREATE TABLE dw.s.t (a integer)"))
        .isEqualTo("42000 there is table dw.s.t already");
    assertThat(no(keeper, "CREATE TABLE dw.s.u (a integer, A integer)"))
        .isEqualTo("42000 there are two columns a");
    assertThat(no(keeper, "CREATE TABLE dw.s.u (a blob)")).contains("there is no type blob");
    assertThat(no(keeper, "CREATE TABLE u (a integer)")).contains("3 parts");
    assertThat(no(keeper, "DROP SCHEMA dw.s")).contains("there are things in schema dw.s");
    assertThat(no(keeper, "DROP USER keeper")).contains("nobody drops themselves");
    assertThat(no(keeper, "SET ROLE clerks")).contains("all roles are on here");
    assertThat(no(keeper, "GRANT ROLE clerks TO clerks")).contains("does not hold itself");
    assertThat(no(keeper, "GRANT SELECT TABLE x")).contains("this is no statement: line 1");
    assertThat(no(keeper, "SELECT nothing FROM dw.s.t")).startsWith("42000 Column");
    assertThat(no(keeper, "SELECT 1 / 0")).contains("does not work on what is there");
    assertThat(no(keeper, "CREATE USER x PASSWORD HASHED '1.2.3'")).contains("as it is");
  }

  @Test
  void whatWasUsedAndRefusedIsNoted() throws Exception {
    run(keeper, "GRANT USAGE ON SCHEMA dw.s TO ana;\nGRANT SELECT ON TABLE dw.s.t TO ana");
    Connection ana = trial.as("ana");
    rows(ana, "SELECT a FROM dw.s.t");
    assertThat(no(ana, "DELETE FROM dw.s.t")).startsWith("42501");
    assertThat(
            rows(
                keeper,
                "SELECT principal_name, outcome, permission, object_type, database_name,"
                    + " schema_name, object_name FROM catalog.uses"
                    + " WHERE principal_name = 'ana' ORDER BY outcome"))
        .containsExactly("ana|done|select|table|dw|s|t", "ana|refused|delete|table|dw|s|t");
  }

  @Test
  void whoIsLockedOrDroppedMeanwhileIsOut() throws Exception {
    Connection ana = trial.as("ana");
    run(keeper, "ALTER USER ana LOCK");
    assertThat(no(ana, "SELECT 1")).isEqualTo("42501 ana is no longer let in");
    run(keeper, "ALTER USER ana UNLOCK");
    assertThat(rows(ana, "SELECT 1")).containsExactly("1");
    run(keeper, "DROP USER ana");
    assertThat(no(ana, "SELECT 1")).startsWith("42501");
  }

  @Test
  void oneRoleAtATimeIsOnAndNoneAtLogin() throws Exception {
    String house =
        Trial.HOUSE
            .replace("roles: all on", "roles: one at a time")
            .replace("digests,", "digests, default roles,");
    try (Trial other = Trial.in(folder.resolve("other"), house)) {
      Connection first = other.keeper();
      run(
          first,
          """
          CREATE USER ana PASSWORD 's';
          CREATE ROLE readers;
          CREATE ROLE writers;
          GRANT ROLE readers TO ana;
          GRANT ROLE writers TO ana;
          CREATE DATABASE dw;
          CREATE SCHEMA dw.s;
          CREATE TABLE dw.s.t (a integer);
          GRANT USAGE ON SCHEMA dw.s TO EVERYBODY;
          GRANT SELECT ON TABLE dw.s.t TO readers;
          GRANT INSERT ON TABLE dw.s.t TO writers;
          """);
      Connection ana = other.as("ana");
      assertThat(no(ana, "SELECT a FROM dw.s.t")).startsWith("42501");
      run(ana, "SET ROLE readers");
      assertThat(rows(ana, "SELECT a FROM dw.s.t")).isEmpty();
      assertThat(no(ana, "INSERT INTO dw.s.t VALUES (1)"))
          .isEqualTo("42501 ana as readers may not insert (a) on table dw.s.t");
      assertThat(no(ana, "SET ROLE readers, writers")).contains("one role at a time");
      run(first, "ALTER USER ana DEFAULT ROLE readers");
      run(ana, "SET ROLE NONE");
      assertThat(no(ana, "SELECT a FROM dw.s.t")).contains("ana may not select");
      assertThat(rows(other.as("ana"), "SELECT a FROM dw.s.t")).isEmpty();
      run(ana, "SET ROLE readers");
      run(first, "REVOKE ROLE readers FROM ana");
      assertThat(no(ana, "SELECT a FROM dw.s.t")).contains("does not hold the role readers");
    }
  }

  @Test
  void theDriverSaysWhatItCannot() throws SQLException {
    assertThat(keeper.getMetaData().getDatabaseProductVersion()).isEqualTo("1 (trial)");
    keeper.setAutoCommit(false);
    keeper.rollback();
    run(keeper, "INSERT INTO dw.s.t (a) VALUES (9)");
    org.assertj.core.api.Assertions.assertThatThrownBy(keeper::rollback)
        .hasMessageContaining("takes effect by itself");
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> keeper.prepareStatement("SELECT 1"))
        .hasMessageContaining("has no prepareStatement");
    keeper.close();
    assertThat(keeper.isClosed()).isTrue();
  }

  @Test
  void whoGaveSomethingIsKnownAsLongAsTheyAreThere() throws SQLException {
    run(
        keeper,
        """
        CREATE USER bo PASSWORD 's';
        GRANT USAGE ON SCHEMA dw.s TO EVERYBODY;
        GRANT SELECT ON dw.s.t TO ana WITH GRANT OPTION;
        """);
    try (Connection ana = trial.as("ana")) {
      run(ana, "GRANT SELECT ON dw.s.t TO bo");
      run(keeper, "GRANT SELECT ON dw.s.t TO bo");
    }
    String who =
        "SELECT principal_name, given_by FROM catalog.permissions WHERE permission = 'select'";
    assertThat(rows(keeper, who)).containsExactlyInAnyOrder("ana|keeper", "bo|ana");
    run(keeper, "REVOKE SELECT ON dw.s.t FROM bo");
    run(keeper, "GRANT SELECT ON dw.s.t TO bo");
    assertThat(rows(keeper, who)).containsExactlyInAnyOrder("ana|keeper", "bo|keeper");
    run(keeper, "DROP USER ana");
    assertThat(rows(keeper, who)).containsExactly("bo|keeper");
  }
}
