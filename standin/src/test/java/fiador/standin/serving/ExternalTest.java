package fiador.standin.serving;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Tables whose rows another stand-in has: the right here, the way in, and the right there. */
class ExternalTest {
  @TempDir private Path folder;
  private Trial here;
  private Trial there;
  private Connection keeper;
  private Connection far;

  @BeforeEach
  void both() throws Exception {
    here = Trial.in(folder.resolve("here"));
    there = Trial.in(folder.resolve("there"));
    keeper = here.keeper();
    far = there.keeper();
    Trial.run(
        far,
        """
        CREATE USER reader PASSWORD 's';
        CREATE USER narrow PASSWORD 's';
        CREATE DATABASE dw;
        CREATE SCHEMA dw.billing;
        CREATE TABLE dw.billing.meters (id integer, street varchar(20), "Odd" integer);
        INSERT INTO dw.billing.meters VALUES (1, 'Rua A', 7), (2, 'Rua B', 8);
        GRANT USAGE ON SCHEMA dw.billing TO EVERYBODY;
        GRANT SELECT ON dw.billing.meters TO reader;
        GRANT SELECT (id) ON dw.billing.meters TO narrow;
        """);
    Trial.run(
        keeper,
        """
        CREATE USER ana PASSWORD 's';
        CREATE USER bo PASSWORD 's';
        CREATE USER cy PASSWORD 's';
        CREATE DATABASE lake;
        CREATE SCHEMA lake.far;
        GRANT USAGE ON SCHEMA lake.far TO EVERYBODY;
        CREATE PLACE branch AT '127.0.0.1:%d' DATABASE dw;
        LET ana INTO branch AS reader PASSWORD 's';
        LET bo INTO branch AS narrow PASSWORD 's';
        CREATE TABLE lake.far.meters (id integer, street varchar(20), "Odd" integer) IN branch AS billing.meters;
        GRANT SELECT ON lake.far.meters TO ana;
        GRANT SELECT ON lake.far.meters TO bo;
        GRANT SELECT ON lake.far.meters TO cy;
        """
            .formatted(there.standIn().port()));
  }

  @AfterEach
  void end() throws Exception {
    here.close();
    there.close();
  }

  @Test
  void rowsComeWhereBothSidesAllowIt() throws SQLException {
    try (Connection ana = here.as("ana");
        Connection bo = here.as("bo");
        Connection cy = here.as("cy")) {
      assertThat(Trial.rows(ana, "SELECT * FROM lake.far.meters ORDER BY id"))
          .containsExactly("1|Rua A|7", "2|Rua B|8");
      assertThat(Trial.rows(ana, "SELECT m.\"Odd\" FROM lake.far.meters m WHERE id = 2"))
          .containsExactly("8");
      assertThat(Trial.rows(bo, "SELECT id FROM lake.far.meters ORDER BY id"))
          .containsExactly("1", "2");
      assertThat(Trial.rows(bo, "SELECT count(*) FROM lake.far.meters")).containsExactly("2");
      assertThat(
              Trial.rows(
                  bo,
                  "SELECT count(*) FROM lake.far.meters a JOIN lake.far.meters b" + " USING (id)"))
          .containsExactly("2");
      assertThat(Trial.no(bo, "SELECT street FROM lake.far.meters"))
          .isEqualTo("42501 table lake.far.meters is at branch, and refused there");
      assertThat(
              Trial.no(
                  bo,
                  "SELECT count(*) FROM lake.far.meters a JOIN lake.far.meters b"
                      + " USING (street)"))
          .startsWith("42501");
      assertThat(Trial.no(cy, "SELECT id FROM lake.far.meters"))
          .isEqualTo("42501 cy has no way into branch");
      assertThat(Trial.no(keeper, "INSERT INTO lake.far.meters (id) VALUES (1)"))
          .contains("are changed where they are");
      Trial.run(keeper, "REVOKE SELECT ON lake.far.meters FROM ana");
      assertThat(Trial.no(ana, "SELECT id FROM lake.far.meters"))
          .startsWith("42501 ana may not select");
    }
  }

  @Test
  void whatIsMissingThereIsSaidWithoutTheOthersWords() throws Exception {
    try (Connection ana = here.as("ana")) {
      Trial.run(far, "ALTER USER reader PASSWORD 'another'");
      assertThat(Trial.no(ana, "SELECT id FROM lake.far.meters"))
          .isEqualTo("42501 table lake.far.meters is at branch, where nobody is let in so");
      Trial.run(keeper, "LET ana INTO branch AS reader PASSWORD 'another'");
      Trial.run(far, "DROP TABLE dw.billing.meters");
      assertThat(Trial.no(ana, "SELECT id FROM lake.far.meters"))
          .isEqualTo(
              "42000 table lake.far.meters is at branch, where there is nothing of that name");
      there.close();
      assertThat(Trial.no(ana, "SELECT id FROM lake.far.meters"))
          .isEqualTo("42000 table lake.far.meters is at branch, which gives no rows that fit");
    }
  }

  @Test
  void viewsGoAsTheirOwnersOrAsWhoAsks() throws SQLException {
    Trial.run(
        keeper,
        """
        LET keeper INTO branch AS reader PASSWORD 's';
        CREATE VIEW lake.far.shown AS SELECT id, street FROM lake.far.meters;
        ALTER VIEW lake.far.shown OWNER TO ana;
        CREATE VIEW lake.far.own READS AS ASKER AS SELECT id FROM lake.far.meters;
        GRANT SELECT ON lake.far.shown TO cy;
        GRANT SELECT ON lake.far.own TO cy;
        GRANT SELECT ON lake.far.own TO bo;
        """);
    try (Connection bo = here.as("bo");
        Connection cy = here.as("cy")) {
      assertThat(Trial.rows(cy, "SELECT id FROM lake.far.shown ORDER BY id"))
          .containsExactly("1", "2");
      assertThat(Trial.rows(bo, "SELECT id FROM lake.far.own ORDER BY id"))
          .containsExactly("1", "2");
      assertThat(Trial.no(cy, "SELECT id FROM lake.far.own")).contains("no way into branch");
    }
  }

  @Test
  void administratorsAloneSayWhereItCallsAndAsWhom() throws SQLException {
    Trial.run(keeper, "GRANT CREATE ON SCHEMA lake.far TO ana");
    Trial.run(keeper, "GRANT POWER 'manage roles' TO bo");
    try (Connection ana = here.as("ana");
        Connection bo = here.as("bo")) {
      for (Connection one : new Connection[] {ana, bo}) {
        assertThat(Trial.no(one, "CREATE PLACE p AT '127.0.0.1:1'")).startsWith("42501");
        assertThat(Trial.no(one, "DROP PLACE branch")).startsWith("42501");
        assertThat(Trial.no(one, "LET cy INTO branch AS reader PASSWORD 's'")).startsWith("42501");
        assertThat(Trial.no(one, "KEEP bo OUT OF branch")).startsWith("42501");
      }
      Trial.run(ana, "CREATE TABLE lake.far.mine (id integer) IN branch AS billing.meters");
      assertThat(Trial.rows(ana, "SELECT id FROM lake.far.mine ORDER BY id"))
          .containsExactly("1", "2");
    }
    assertThat(Trial.no(keeper, "CREATE PLACE p AT '127.0.0.1:70000'")).contains("HOST:PORT");
    assertThat(Trial.no(keeper, "CREATE PLACE p AT 'a/b:1'")).contains("HOST:PORT");
    assertThat(Trial.no(keeper, "LET cy INTO branch AS reader PASSWORD HASHED 'x'"))
        .contains("given as it is");
    assertThat(Trial.no(keeper, "DROP PLACE branch")).contains("drop that first");
  }

  @Test
  void secretsAreSealedAndKnownAgainAfterAStart() throws Exception {
    Trial.run(keeper, "LET EVERYBODY INTO branch AS narrow PASSWORD 'known only here'");
    Trial.run(keeper, "KEEP bo OUT OF branch");
    here.close();
    String journal = Files.readString(folder.resolve("here/journal.jsonl"));
    assertThat(journal).doesNotContain("known only here").contains("LET EVERYBODY INTO branch");
    Trial.run(far, "ALTER USER narrow PASSWORD 'known only here'");
    here = Trial.in(folder.resolve("here"));
    try (Connection bo = here.as("bo");
        Connection again = here.keeper()) {
      assertThat(Trial.rows(bo, "SELECT id FROM lake.far.meters ORDER BY id"))
          .containsExactly("1", "2");
      assertThat(Trial.rows(again, "SELECT * FROM catalog.ways_in ORDER BY principal_name"))
          .containsExactly("branch|ana|reader", "branch|everybody|narrow");
      assertThat(Trial.rows(again, "SELECT * FROM catalog.external_tables"))
          .containsExactly("lake|far|meters|branch|billing|meters");
      assertThat(Trial.rows(again, "SELECT place_name, host, database_name FROM catalog.places"))
          .containsExactly("branch|127.0.0.1|dw");
    }
    Path key = folder.resolve("here/key");
    Files.write(key, new byte[32]);
    here.close();
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> Trial.in(folder.resolve("here")))
        .hasMessageContaining("sealed with the key");
  }

  @Test
  void noCircleGoesOnForEver() throws SQLException {
    Trial.run(
        keeper,
        """
        CREATE USER round PASSWORD 's';
        GRANT USAGE ON SCHEMA lake.far TO round;
        CREATE PLACE self AT '127.0.0.1:%d' DATABASE lake;
        LET EVERYBODY INTO self AS round PASSWORD 's';
        CREATE TABLE lake.far.loop (id integer) IN self AS far.loop;
        GRANT SELECT ON lake.far.loop TO EVERYBODY;
        """
            .formatted(here.standIn().port()));
    try (Connection cy = here.as("cy")) {
      assertThat(Trial.no(cy, "SELECT id FROM lake.far.loop")).startsWith("42000");
      assertThat(Trial.no(cy, "SELECT 1 FROM lake.far.loop")).startsWith("42000");
      assertThat(Trial.rows(cy, "SELECT 1 AS one FROM (VALUES (1)) AS v (a)")).containsExactly("1");
    }
  }

  @Test
  void columnsAreCalledTheSameThere() throws SQLException {
    Trial.run(
        keeper,
        """
        CREATE TABLE lake.far.other ("ID" integer) IN branch AS billing.meters;
        CREATE TABLE lake.far.lacks (nothing integer) IN branch AS billing.meters;
        GRANT SELECT ON lake.far.other TO ana;
        GRANT SELECT ON lake.far.lacks TO ana;
        """);
    try (Connection ana = here.as("ana")) {
      assertThat(Trial.no(ana, "SELECT \"ID\" FROM lake.far.other")).contains("nothing of that");
      assertThat(Trial.no(ana, "SELECT nothing FROM lake.far.lacks")).contains("nothing of that");
    }
  }
}
