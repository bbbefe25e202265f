package fiador.work.settling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.CreateRole;
import fiador.changes.steps.Step;
import fiador.files.journal.Journal;
import fiador.work.charters.Surveys;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Settling without a command line: what comes back is data, and the listener hears of each step.
 */
final class SettlementTest {
  @TempDir Path folder;

  private final List<String> heard = new ArrayList<>();

  private final Listener listener =
      new Listener() {
        @Override
        public void note(String note) {
          heard.add("note");
        }

        @Override
        public void isGone(Step step, String why) {
          heard.add("gone: " + why);
        }

        @Override
        public void begins(int steps) {
          heard.add("begins " + steps);
        }

        @Override
        public void done(List<Step> some, String sql) {
          heard.add(sql);
        }

        @Override
        public void waits(String sql) {
          heard.add("waits");
        }

        @Override
        public void ends() {
          heard.add("ends");
        }
      };

  private SmallEstate estate;

  @BeforeEach
  void aTableAndAUser() throws Exception {
    estate = new SmallEstate(folder, "ledger: none");
  }

  private Settlement settlement() throws Exception {
    return new Settlement(estate.task(), (before, steps) -> user -> "x".toCharArray(), listener);
  }

  private Settled settle() throws Exception {
    try (Settlement settlement = settlement()) {
      return settlement.settle(false);
    }
  }

  private Followed follow(Settlement.Way way, boolean skipGone, boolean look) throws Exception {
    try (Settlement settlement = settlement()) {
      return settlement.follow(way, skipGone, look);
    }
  }

  private void killedAfterTheFirstStep() throws Exception {
    List<Step> steps = Settlement.planned(estate.task(), listener).plan().steps();
    Task task = estate.task();
    String identity = task.kind().identity(Surveys.login(task.entry()));
    Journal.begin(task.journal(), "it", identity, task.clock().instant(), steps).close();
    estate.run("create role reader");
  }

  @Test
  void whatIsDoneIsHeardOfAndTheSecondTimeNothingIs() throws Exception {
    Settled first = settle();
    assertThat(first.state()).isEqualTo(Settled.State.DONE);
    assertThat(first.left()).isEmpty();
    assertThat(heard)
        .containsExactly(
            "begins 3",
            "CREATE ROLE \"READER\"",
            "GRANT \"READER\" TO \"U\"",
            "GRANT SELECT ON TABLE \"S\".\"T\" TO \"READER\"",
            "ends");
    heard.clear();
    assertThat(settle().state()).isEqualTo(Settled.State.AS_WANTED);
    assertThat(heard).isEmpty();
  }

  @Test
  void whatIsPlannedChangesNothing() throws Exception {
    assertThat(Settlement.planned(estate.task(), listener).plan().steps()).hasSize(3);
    assertThat(settle().steps()).hasSize(3);
  }

  @Test
  void undoTakesBackWhatTookEffect() throws Exception {
    settle();
    Followed looked = follow(Settlement.Way.UNDO, false, true);
    assertThat(looked.state()).isEqualTo(Followed.State.PLANNED);
    assertThat(looked.steps()).hasSize(3);
    Followed undone = follow(Settlement.Way.UNDO, false, false);
    assertThat(undone.state()).isEqualTo(Followed.State.DONE);
    assertThat(undone.complete()).isTrue();
    assertThat(Settlement.planned(estate.task(), listener).plan().steps()).hasSize(3);
    assertThat(follow(Settlement.Way.RESUME, false, false).state())
        .isEqualTo(Followed.State.NOTHING_LEFT);
  }

  @Test
  void aRunThatWasKilledIsNotSettledOver() throws Exception {
    killedAfterTheFirstStep();
    assertThat(settle().state()).isEqualTo(Settled.State.UNFINISHED);
    Followed resumed = follow(Settlement.Way.RESUME, false, false);
    assertThat(resumed.state()).isEqualTo(Followed.State.DONE);
    assertThat(resumed.steps()).hasSize(2).noneMatch(CreateRole.class::isInstance);
  }

  /** Laying a run aside is the way out where its journal is of no use. */
  @Test
  void aDamagedJournalCanBeLaidAside() throws Exception {
    Files.createDirectories(estate.task().journal().getParent());
    Files.writeString(estate.task().journal(), "{");
    try (Settlement settlement = settlement()) {
      assertThatThrownBy(() -> settlement.settle(false)).hasMessageContaining("is damaged");
      assertThat(settlement.settle(true).state()).isEqualTo(Settled.State.DONE);
    }
    assertThat(heard).startsWith("note", "begins 3");
  }

  @Test
  void whatWasDroppedSinceIsSaidAndLeftOutWhenAskedTo() throws Exception {
    killedAfterTheFirstStep();
    estate.run("drop table s.t");
    assertThat(follow(Settlement.Way.RESUME, false, false).state()).isEqualTo(Followed.State.GONE);
    assertThat(heard).hasSize(1).first().asString().contains("there is no table S.T any more");
    Followed rest = follow(Settlement.Way.RESUME, true, false);
    assertThat(rest.state()).isEqualTo(Followed.State.DONE);
    assertThat(rest.gone()).isEqualTo(1);
    assertThat(rest.steps()).hasSize(1);
    assertThat(rest.complete()).isTrue();
  }

  @Test
  void aSecretThatIsMissingBeginsNothing() throws Exception {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        Files.readString(folder.resolve("fiador.yaml"))
            .replace("  u: {", "  v: {roles: []}\n  u: {"));
    SecretSource none =
        (before, steps) -> {
          throw new fiador.refusal.BadInput("no secret");
        };
    try (Settlement settlement = new Settlement(estate.task(), none, listener)) {
      assertThatThrownBy(() -> settlement.settle(false)).hasMessage("no secret");
    }
    assertThat(heard).isEmpty();
    assertThat(estate.task().journal()).doesNotExist();
  }

  @Test
  void demandsThatCannotBeMetChangeNothing() throws Exception {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        Files.readString(folder.resolve("fiador.yaml")).replace("s.t\"]", "s.none\"]"));
    try (Settlement settlement = settlement()) {
      assertThatThrownBy(() -> settlement.settle(false))
          .isInstanceOfSatisfying(
              UnmetDemands.class, unmet -> assertThat(unmet.problems()).isNotEmpty());
    }
    assertThat(heard).isEmpty();
  }
}
