package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Deny;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.charter.Charter;
import fiador.files.houses.HouseSheets;
import fiador.files.journal.Journal;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import fiador.work.charters.Charters;
import fiador.work.charters.Environment;
import fiador.work.charters.Surveys;
import fiador.work.settling.Task;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A run that was killed while something was denied for a moment, and is laid aside then. */
class LeftDenialTest {
  private static final String SECRET = "LEFT_DENIAL_TEST";

  @TempDir private Path folder;
  private StandIn standIn;
  private Connection keeper;

  @BeforeEach
  void begin() throws Exception {
    Environment.have(SECRET, "x");
    String sheet = HouseSheets.text("cascade");
    standIn =
        StandIn.start(
            Settings.local(folder.resolve("server"), sheet, "keeper", "x".toCharArray(), 0));
    keeper =
        DriverManager.getConnection(
            "jdbc:standin://127.0.0.1:" + standIn.port() + "/", "keeper", "x");
    execute("CREATE DATABASE dw");
    execute("CREATE SCHEMA dw.billing");
    execute("CREATE TABLE dw.billing.customers (id integer)");
    charter("reader: {may: [connect on database dw, select on schema billing]}");
    assertThat(settle().out).contains("surveyed again: no gap");
    killed();
  }

  @AfterEach
  void end() throws Exception {
    keeper.close();
    standIn.close();
    Environment.forget(SECRET);
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = keeper.createStatement()) {
      statement.execute(sql);
    }
  }

  private void charter(String role) throws Exception {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        """
        fiador: 1
        estate: trial
        ledger: none
        servers:
          dw:
            kind: house/cascade
            url: 'jdbc:standin://127.0.0.1:PORT/'
            login: keeper
            password: ${SECRET}
        governs: {schemas: [billing], roles: ['*']}
        roles:
          ROLE
        users:
          ines: {roles: [reader]}
        """
            .replace("PORT", String.valueOf(standIn.port()))
            .replace("SECRET", SECRET)
            .replace("ROLE", role));
  }

  private Program settle(String... more) {
    String[] all = new String[more.length + 2];
    System.arraycopy(more, 0, all, 0, more.length);
    all[more.length] = "--charter";
    all[more.length + 1] = folder.toString();
    return Program.settle("s", all);
  }

  /** As if a settle had been killed behind its first statement. */
  private void killed() throws Exception {
    On table = new On(NodeKind.TABLE, "dw", List.of("billing", "customers"));
    Deny brief = new Deny(Privilege.SELECT.bit(), table, List.of(), "ines", false, true);
    List<Step> steps = List.of(brief, brief.inverse());
    Charter charter = Charters.read(folder);
    Task task = new Task(folder, charter, Charters.server(charter, "dw"), false, Clock.systemUTC());
    String identity = task.kind().identity(Surveys.login(task.entry()));
    Journal.begin(task.journal(), "dw", identity, Clock.systemUTC().instant(), steps).close();
    execute(task.kind().dialect().shown(List.of(brief)).get(0));
  }

  private String denials() {
    Path survey = Surveys.file(folder, "dw");
    return Program.run("list", "denials", "--from", survey.toString(), "--format", "csv").out;
  }

  @Test
  void itIsLiftedAtTheEndOfTheNextRun() throws Exception {
    assertThat(settle().err).contains("stopped half-way");
    charter("reader: {may: [connect on database dw, 'select, insert on schema billing']}");
    Program anew = settle("--anew");
    assertThat(anew.err).contains("had made 1 denial for a moment").contains("it is lifted");
    assertThat(anew.out).contains("1 grant given").contains("surveyed again: no gap");
    assertThat(denials().lines()).hasSize(1);
    assertThat(settle().out).contains("nothing to do");
  }

  @Test
  void itIsLiftedWhereNothingElseIsToDo() {
    Program anew = settle("--anew");
    assertThat(anew.out).contains("settled dw: 1 denial lifted");
    assertThat(anew.err).contains("had made 1 denial for a moment");
    assertThat(denials().lines()).hasSize(1);
    assertThat(settle().out).contains("nothing to do");
  }

  @Test
  void undoingLiftsItToo() {
    assertThat(settle("--undo").code).isZero();
    assertThat(denials().lines()).hasSize(1);
  }
}
