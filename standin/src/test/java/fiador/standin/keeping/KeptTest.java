package fiador.standin.keeping;

import static fiador.standin.serving.Trial.rows;
import static fiador.standin.serving.Trial.run;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.standin.serving.Trial;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What was answered is there again after whatever end. */
class KeptTest {
  @TempDir private Path folder;

  @Test
  void everythingIsThereAgain() throws Exception {
    try (Trial trial = Trial.in(folder)) {
      run(
          trial.keeper(),
          """
          CREATE USER ana PASSWORD 's';
          CREATE ROLE clerks;
          GRANT ROLE clerks TO ana WITH ADMIN OPTION;
          CREATE DATABASE dw;
          CREATE SCHEMA dw.s;
          CREATE TABLE dw.s.t (a integer, b varchar(9));
          CREATE VIEW dw.s.v READS AS ASKER AS SELECT b FROM dw.s.t;
          CREATE TABLE dw.s.gone (a integer);
          DROP TABLE dw.s.gone;
          INSERT INTO dw.s.t VALUES (1, 'one');
          GRANT USAGE ON SCHEMA dw.s TO clerks;
          GRANT SELECT ON SCHEMA dw.s TO clerks WITH GRANT OPTION;
          REFUSE SELECT (a) ON TABLE dw.s.t TO clerks;
          ALTER VIEW dw.s.v OWNER TO clerks;
          ALTER USER ana RENAME TO eva;
          ALTER ROLE clerks RENAME TO tellers;
          """);
    }
    try (Trial trial = Trial.in(folder)) {
      Connection keeper = trial.keeper();
      assertThat(rows(trial.as("eva"), "SELECT b FROM dw.s.v")).containsExactly("one");
      assertThat(fiador.standin.serving.Trial.no(keeper, "DROP TABLE dw.s.t"))
          .contains("view dw.s.v reads table dw.s.t");
      assertThat(rows(keeper, "SELECT * FROM catalog.role_members"))
          .containsExactly("tellers|eva|yes|yes");
      assertThat(rows(keeper, "SELECT object_name, owner_name, reads_as FROM catalog.objects"))
          .containsExactly("t|keeper|null", "v|tellers|asker");
      assertThat(rows(keeper, "SELECT decision, permission, column_name FROM catalog.permissions"))
          .containsExactlyInAnyOrder(
              "allowed|usage|null", "allowed|select|null", "refused|select|a");
    }
  }

  @Test
  void whatWasCutOffWhileItWasWrittenIsNotThere() throws Exception {
    try (Trial trial = Trial.in(folder)) {
      run(trial.keeper(), "CREATE ROLE one");
    }
    Path journal = folder.resolve("journal.jsonl");
    Files.writeString(journal, "{\"at\":\"2027", StandardOpenOption.APPEND);
    try (Trial trial = Trial.in(folder)) {
      run(trial.keeper(), "CREATE ROLE two");
    }
    try (Trial trial = Trial.in(folder)) {
      assertThat(rows(trial.keeper(), "SELECT principal_name FROM catalog.principals"))
          .containsExactly("keeper", "one", "two");
    }
    Files.writeString(journal, "nonsense\n", StandardOpenOption.APPEND);
    assertThatThrownBy(() -> Trial.in(folder)).hasMessageContaining("line 4 is not what");
  }

  @Test
  void twoDoNotKeepTheSameFolder() throws Exception {
    try (Trial trial = Trial.in(folder)) {
      assertThat(rows(trial.keeper(), "SELECT 1")).hasSize(1);
      assertThatThrownBy(() -> Trial.in(folder)).hasMessageContaining("another stand-in has");
    }
    assertThatThrownBy(() -> Trial.in(folder, Trial.HOUSE.replace("lower", "upper")))
        .hasMessageContaining("began with another house sheet");
  }

  /** A process that is killed in the middle of its work has lost nothing that it said was done. */
  @Test
  void aKilledOneHasLostNothingItAnswered() throws Exception {
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                Working.class.getName(),
                folder.toString())
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    int answered = 0;
    try (BufferedReader said =
        new BufferedReader(
            new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      for (String line = said.readLine(); line != null; line = said.readLine()) {
        answered = Integer.parseInt(line);
        if (answered == Working.ENOUGH) {
          process.destroyForcibly();
          break;
        }
      }
    }
    assertThat(process.waitFor(30, TimeUnit.SECONDS)).isTrue();
    assertThat(answered).isGreaterThanOrEqualTo(Working.ENOUGH);
    try (Trial trial = Trial.in(folder)) {
      Connection keeper = trial.keeper();
      int roles =
          rows(keeper, "SELECT 1 FROM catalog.principals WHERE principal_type = 'role'").size();
      int kept = rows(keeper, "SELECT a FROM dw.s.t").size();
      List<String> tables = rows(keeper, "SELECT object_name FROM catalog.objects");
      assertThat(roles).isGreaterThanOrEqualTo(answered);
      assertThat(kept).isBetween(answered, roles);
      assertThat(tables).hasSizeBetween(2, 3);
      // what is still there has its rows too
      for (String table : tables) {
        assertThat(rows(keeper, "SELECT count(*) FROM dw.s." + table)).hasSize(1);
      }
    }
  }

  /** Works, and says after each round that it is done. */
  static final class Working {
    static final int ENOUGH = 25;

    private Working() {}

    public static void main(String[] args) throws Exception {
      Trial trial = Trial.in(Path.of(args[0]));
      Connection keeper = trial.keeper();
      run(keeper, "CREATE DATABASE dw;\nCREATE SCHEMA dw.s;\nCREATE TABLE dw.s.t (a integer)");
      for (int i = 1; ; i++) {
        run(keeper, "CREATE ROLE r" + i);
        run(keeper, "INSERT INTO dw.s.t VALUES (" + i + ")");
        run(keeper, "CREATE TABLE dw.s.t" + i + " (a integer)");
        if (i > 1) {
          run(keeper, "DROP TABLE dw.s.t" + (i - 1));
        }
        System.out.println(i);
      }
    }
  }

  @Test
  void aJournalThatIsNoneIsSaid() throws IOException {
    Files.writeString(folder.resolve("kept.house.yaml"), Trial.HOUSE);
    Files.writeString(folder.resolve("journal.jsonl"), "");
    assertThatThrownBy(() -> Trial.in(folder)).hasMessageContaining("is no journal");
  }
}
