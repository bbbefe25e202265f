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
import org.junit.jupiter.api.io.TempDir;

/** What is given and refused by a label is so on all that carries it, and nobody else says what. */
class LabelTest {
  private static final String HOUSE =
      Trial.HOUSE
          .replace("digests,", "digests, labels,")
          .replace(
              "    - {on: schema, needs: usage}\n",
              "    - {on: schema, needs: usage}\n"
                  + "    - {on: schema, needs: usage, where: sealed}\n");

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
        CREATE DATABASE dw;
        CREATE SCHEMA dw.s;
        CREATE TABLE dw.s.t (a integer, b integer);
        CREATE TABLE dw.s.u (a integer, b integer);
        INSERT INTO dw.s.t VALUES (7, 8);
        INSERT INTO dw.s.u VALUES (9, 10);
        GRANT USAGE ON SCHEMA dw.s TO ana;
        PUT LABEL open ON TABLE dw.s.t;
        PUT LABEL secret ON dw.s.t (b);
        """);
    ana = trial.as("ana");
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  @Test
  void whatIsGivenByALabelOpensWhatCarriesIt() throws Exception {
    assertThat(no(ana, "SELECT a FROM dw.s.t")).contains("ana may not select");
    run(keeper, "GRANT SELECT ON LABEL open TO ana");
    assertThat(rows(ana, "SELECT a, b FROM dw.s.t")).containsExactly("7|8");
    assertThat(no(ana, "SELECT a FROM dw.s.u")).contains("ana may not select");
    assertThat(no(ana, "INSERT INTO dw.s.t VALUES (1, 2)")).contains("ana may not insert");
    run(keeper, "REFUSE SELECT ON LABEL secret TO ana");
    assertThat(rows(ana, "SELECT a FROM dw.s.t")).containsExactly("7");
    assertThat(no(ana, "SELECT b FROM dw.s.t")).contains("ana may not read the column b");
    run(keeper, "PUT LABEL open ON SCHEMA dw.s");
    assertThat(rows(ana, "SELECT b FROM dw.s.u")).containsExactly("10");
    run(keeper, "TAKE LABEL open OFF SCHEMA dw.s");
    assertThat(no(ana, "SELECT a FROM dw.s.u")).contains("ana may not select");
    run(keeper, "LIFT SELECT ON LABEL secret FOR ana");
    assertThat(rows(ana, "SELECT b FROM dw.s.t")).containsExactly("8");
    run(keeper, "REVOKE SELECT ON LABEL open FROM ana");
    assertThat(no(ana, "SELECT a FROM dw.s.t")).contains("ana may not select");
  }

  @Test
  void aLabelOfAColumnGivesThatColumn() throws Exception {
    run(keeper, "GRANT SELECT ON LABEL secret TO ana");
    assertThat(rows(ana, "SELECT b FROM dw.s.t")).containsExactly("8");
    assertThat(no(ana, "SELECT a FROM dw.s.t")).contains("ana may not read the column a");
    assertThat(rows(keeper, "SELECT * FROM catalog.labels ORDER BY label_name"))
        .containsExactly("open|table|dw|s|t|null", "secret|table|dw|s|t|b");
    assertThat(
            rows(
                keeper,
                "SELECT permission, object_type, object_name FROM catalog.permissions"
                    + " WHERE object_type = 'label'"))
        .containsExactly("select|label|secret");
  }

  @Test
  void onlyAdministratorsSayWhatCarriesWhich() throws Exception {
    run(keeper, "ALTER TABLE dw.s.u OWNER TO ana;\nGRANT SELECT ON LABEL open TO ana");
    assertThat(no(ana, "PUT LABEL open ON dw.s.u")).contains("42501");
    assertThat(no(ana, "TAKE LABEL secret OFF dw.s.t (b)")).contains("42501");
    assertThat(no(ana, "GRANT SELECT ON LABEL open TO EVERYBODY")).contains("42501");
    assertThat(no(ana, "REVOKE SELECT ON LABEL open FROM ana")).contains("42501");
    assertThat(no(ana, "REFUSE SELECT ON LABEL open TO keeper")).contains("42501");
  }

  @Test
  void whatIsSealedIsOutOfReachOfLabels() throws Exception {
    run(
        keeper,
        """
        PUT LABEL open ON SCHEMA dw.s;
        GRANT SELECT, USAGE ON LABEL open TO keeper;
        ALTER SCHEMA dw.s OWNER TO ana;
        """);
    run(ana, "ALTER USER ana PASSWORD 's';\nSEAL SCHEMA dw.s");
    assertThat(no(keeper, "SELECT a FROM dw.s.t")).contains("is sealed");
    assertThat(no(keeper, "PUT LABEL other ON dw.s.u")).contains("is sealed");
    run(keeper, "CREATE USER bob PASSWORD 's';\nGRANT SELECT ON LABEL open TO bob");
    run(ana, "GRANT USAGE ON SCHEMA dw.s TO bob");
    assertThat(no(trial.as("bob"), "SELECT a FROM dw.s.t")).contains("bob may not select");
  }

  @Test
  void mistakesAreNamed() throws Exception {
    assertThat(no(keeper, "GRANT SELECT ON LABEL opne TO ana"))
        .contains("nothing carries the label opne");
    assertThat(no(keeper, "GRANT SELECT (a) ON LABEL open TO ana")).contains("on columns");
    assertThat(no(keeper, "GRANT SELECT ON LABEL open TO ana WITH GRANT OPTION"))
        .contains("what is given by a label is not given on");
    assertThat(no(keeper, "PUT LABEL open ON dw.s.t (z)")).contains("there is no column z");
    assertThat(no(keeper, "PUT LABEL open ON SERVER")).contains("the server carries no labels");
    assertThat(no(keeper, "TAKE LABEL open OFF dw.s.u")).contains("does not carry the label open");
    assertThat(no(keeper, "CREATE TABLE dw.s.label (put integer, off integer)"))
        .isEqualTo("it worked");
  }
}
