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

/** A schema that opens to nobody by a power, and every way round that. */
class SealTest {
  private static final String HOUSE =
      Trial.HOUSE.replace(
          "    - {on: schema, needs: usage}\n",
          "    - {on: schema, needs: usage, where: sealed}\n");
  private static final String OUT = "42501 schema dw.lab is sealed, and keeper was not let in";
  private static final String BEYOND =
      "42501 ana is let into schema dw.lab, which is sealed, and keeper is not";

  @TempDir private Path folder;
  private Trial trial;
  private Connection keeper;
  private Connection ana;

  @BeforeEach
  void begin() throws Exception {
    trial = Trial.in(folder, HOUSE);
    keeper = trial.keeper();
    run(
        keeper,
        """
        CREATE USER ana PASSWORD 's';
        CREATE USER bob PASSWORD 's';
        CREATE ROLE team;
        CREATE DATABASE dw;
        CREATE SCHEMA dw.lab;
        CREATE SCHEMA dw.open;
        GRANT CREATE ON SCHEMA dw.open TO ana;
        CREATE TABLE dw.lab.t (a integer);
        INSERT INTO dw.lab.t VALUES (7);
        GRANT SELECT ON TABLE dw.lab.t TO bob;
        ALTER TABLE dw.lab.t OWNER TO ana;
        ALTER SCHEMA dw.lab OWNER TO ana;
        """);
    ana = trial.as("ana");
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  private void seal() throws SQLException {
    run(ana, "ALTER USER ana PASSWORD 's';\nSEAL SCHEMA dw.lab");
  }

  @Test
  void aSealedSchemaOpensToThoseWhoWereLetInAlone() throws Exception {
    assertThat(rows(keeper, "SELECT a FROM dw.lab.t")).containsExactly("7");
    seal();
    Connection bob = trial.as("bob");
    assertThat(no(keeper, "SELECT a FROM dw.lab.t")).isEqualTo(OUT);
    assertThat(no(keeper, "DELETE FROM dw.lab.t")).isEqualTo(OUT);
    assertThat(no(bob, "SELECT a FROM dw.lab.t")).contains("bob was not let in");
    assertThat(rows(ana, "SELECT a FROM dw.lab.t")).containsExactly("7");
    run(ana, "GRANT USAGE ON SCHEMA dw.lab TO bob");
    assertThat(rows(bob, "SELECT a FROM dw.lab.t")).containsExactly("7");
    assertThat(no(bob, "DELETE FROM dw.lab.t")).contains("may not delete");
    assertThat(rows(keeper, "SELECT schema_name, sealed FROM catalog.schemas ORDER BY 1"))
        .containsExactly("lab|yes", "open|no");
    run(ana, "UNSEAL SCHEMA dw.lab");
    assertThat(rows(keeper, "SELECT a FROM dw.lab.t")).containsExactly("7");
  }

  @Test
  void whoAdministersDoesNothingInside() throws Exception {
    seal();
    for (String deed :
        new String[] {
          "GRANT USAGE ON SCHEMA dw.lab TO keeper",
          "GRANT USAGE ON DATABASE dw TO keeper",
          "GRANT SELECT ON TABLE dw.lab.t TO keeper",
          "REVOKE SELECT ON TABLE dw.lab.t FROM bob",
          "REFUSE SELECT ON TABLE dw.lab.t TO ana",
          "GRANT SELECT ON LATER tables IN SCHEMA dw.lab TO keeper",
          "ALTER SCHEMA dw.lab OWNER TO keeper",
          "ALTER TABLE dw.lab.t OWNER TO keeper",
          "DROP TABLE dw.lab.t",
          "DROP SCHEMA dw.lab",
          "CREATE TABLE dw.lab.u (a integer)",
          "CREATE VIEW dw.open.v AS SELECT a FROM dw.lab.t",
          "UNSEAL SCHEMA dw.lab"
        }) {
      // usage is nothing that could be given on a database in this house
      assertThat(no(keeper, deed))
          .as(deed)
          .isIn(OUT, "42000 there is no usage on a database; " + "there are [create, select]");
    }
    assertThat(no(keeper, "ACT AS ana")).isEqualTo(BEYOND);
    assertThat(no(keeper, "ALTER USER ana PASSWORD 'mine'")).isEqualTo(BEYOND);
    run(ana, "GRANT USAGE ON SCHEMA dw.lab TO team");
    assertThat(no(keeper, "GRANT ROLE team TO keeper")).contains("team is let into");
    run(keeper, "CREATE TABLE dw.open.x (a integer)");
    assertThat(no(keeper, "ALTER TABLE dw.open.x OWNER TO ana")).isEqualTo(BEYOND);
    assertThat(
            rows(
                keeper,
                "SELECT DISTINCT outcome, permission, object_type, schema_name FROM catalog.uses"
                    + " WHERE principal_name = 'keeper' AND permission = 'usage'"))
        .containsExactly("refused|usage|schema|lab");
  }

  @Test
  void whatWasPutInPlaceBeforeDoesNotHelp() throws Exception {
    // a secret that the keeper knows, and views that show what is inside
    assertThat(no(ana, "SEAL SCHEMA dw.lab")).contains("somebody else set the secret of ana");
    run(keeper, "CREATE VIEW dw.lab.within AS SELECT a FROM dw.lab.t");
    run(keeper, "CREATE VIEW dw.open.v AS SELECT a FROM dw.lab.t");
    run(ana, "ALTER USER ana PASSWORD 's'");
    assertThat(no(ana, "SEAL SCHEMA dw.lab")).contains("view dw.open.v shows what is in");
    Connection before = trial.keeper();
    run(before, "ACT AS ana");
    // a secret that the keeper sets in her name is the keeper's
    run(before, "ALTER USER ana PASSWORD 's'");
    assertThat(no(ana, "SEAL SCHEMA dw.lab")).contains("somebody else set the secret of ana");
    run(ana, "ALTER USER ana PASSWORD 's'");
    run(keeper, "DROP VIEW dw.open.v");
    run(ana, "SEAL SCHEMA dw.lab");
    assertThat(no(before, "SELECT a FROM dw.lab.t")).isEqualTo(BEYOND);
    assertThat(no(keeper, "SELECT a FROM dw.lab.within")).isEqualTo(OUT);
    // what those inside show elsewhere is theirs to show, as long as they are inside
    run(ana, "CREATE VIEW dw.open.shown AS SELECT a FROM dw.lab.t");
    assertThat(rows(keeper, "SELECT a FROM dw.open.shown")).containsExactly("7");
  }

  @Test
  void whoeverSealsMustStayIn() throws Exception {
    assertThat(no(keeper, "SEAL SCHEMA dw.lab")).contains("keeper would be out once it is sealed");
    assertThat(no(keeper, "SEAL DATABASE dw")).isEqualTo("42000 a database is not sealed here");
    assertThat(no(ana, "UNSEAL SCHEMA dw.lab")).isEqualTo("42000 schema dw.lab is not sealed");
    assertThat(no(trial.as("bob"), "SEAL SCHEMA dw.lab")).contains("does not own");
    assertThat(rows(keeper, "SELECT a FROM dw.lab.t")).containsExactly("7");
  }

  @Test
  void aSealOutlivesAStop() throws Exception {
    seal();
    run(ana, "GRANT USAGE ON SCHEMA dw.lab TO bob");
    trial.close();
    trial = Trial.in(folder, HOUSE);
    keeper = trial.keeper();
    assertThat(no(keeper, "SELECT a FROM dw.lab.t")).isEqualTo(OUT);
    assertThat(rows(trial.as("bob"), "SELECT a FROM dw.lab.t")).containsExactly("7");
    // the secret is still known to be ana's own
    run(trial.as("ana"), "UNSEAL SCHEMA dw.lab;\nSEAL SCHEMA dw.lab");
  }
}
