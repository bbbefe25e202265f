package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Deny;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.charter.Charter;
import fiador.files.journal.Journal;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import fiador.work.settling.Task;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A run that was killed while something was denied for a moment, and is laid aside then. */
class LeftDenialTest {
  private static final String CHARTER =
      """
      governs: {schemas: [billing], roles: ['*']}
      roles:
        reader: {may: [connect on database dw, 'select on schema billing']}
      users:
        ines: {roles: [reader]}
      """;

  @TempDir private Path folder;
  private StandInEstate estate;

  @BeforeEach
  void begin() throws Exception {
    estate = new StandInEstate(folder, "CREATE TABLE dw.billing.customers (id integer)");
    estate.charter(CHARTER);
    assertThat(estate.settle().out).contains("surveyed again: no gap");
    killed();
  }

  @AfterEach
  void end() throws Exception {
    estate.close();
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
    estate.execute(task.kind().dialect().shown(List.of(brief)).get(0));
  }

  private String denials() {
    Path survey = Surveys.file(folder, "dw");
    return Program.run("list", "denials", "--from", survey.toString(), "--format", "csv").out;
  }

  @Test
  void itIsLiftedAtTheEndOfTheNextRun() throws Exception {
    assertThat(estate.settle().err).contains("stopped half-way");
    estate.charter(CHARTER.replace("select on", "select, insert on"));
    Program anew = estate.settle("--anew");
    assertThat(anew.err).contains("had made 1 denial for a moment").contains("it is lifted");
    assertThat(anew.out).contains("1 grant given").contains("surveyed again: no gap");
    assertThat(denials().lines()).hasSize(1);
    assertThat(estate.settle().out).contains("nothing to do");
  }

  @Test
  void itIsLiftedWhereNothingElseIsToDo() {
    Program anew = estate.settle("--anew");
    assertThat(anew.out).contains("settled dw: 1 denial lifted");
    assertThat(anew.err).contains("had made 1 denial for a moment");
    assertThat(denials().lines()).hasSize(1);
    assertThat(estate.settle().out).contains("nothing to do");
  }

  @Test
  void undoingLiftsItToo() {
    assertThat(estate.settle("--undo").code).isZero();
    assertThat(denials().lines()).hasSize(1);
  }
}
