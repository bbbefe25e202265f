package fiador.work.settling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.files.charter.Charter;
import fiador.files.journal.SavedGap;
import fiador.files.ledger.Ledger;
import fiador.refusal.BadInput;
import fiador.work.charters.Charters;
import fiador.work.charters.Ledgers;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What somebody approved is what is settled, or nothing. */
final class ApprovedTest {
  @TempDir Path folder;

  private SmallEstate estate;

  @BeforeEach
  void aTableAndAUser() throws Exception {
    estate = new SmallEstate(folder, "");
  }

  private static final Listener DEAF =
      new Listener() {
        @Override
        public void note(String note) {}

        @Override
        public void isGone(fiador.changes.steps.Step step, String why) {}

        @Override
        public void begins(int steps) {}

        @Override
        public void done(java.util.List<fiador.changes.steps.Step> some, String sql) {}

        @Override
        public void waits(String sql) {}

        @Override
        public void ends() {}
      };

  private Path saved() throws Exception {
    Task task = estate.task();
    Path file = folder.resolve("change.json");
    Approved.saved(task, Settlement.planned(task, DEAF), "ines").write(file);
    return file;
  }

  private Settled settle(Path file) throws Exception {
    Approved approved = new Approved(SavedGap.read(file), "lia");
    try (Settlement settlement =
        new Settlement(estate.task(), (before, steps) -> user -> "x".toCharArray(), DEAF)) {
      return settlement.settle(false, approved);
    }
  }

  @Test
  void whatWasSeenIsCarriedOutAndTheLedgerKnowsWhoApproved() throws Exception {
    Path file = saved();
    assertThat(Files.readString(file))
        .contains("\"by\" : \"ines\"", "U: select on S.T, nothing -> live", "\"digest\" : ");
    assertThat(settle(file).state()).isEqualTo(Settled.State.DONE);
    Charter charter = Charters.read(folder);
    try (Ledger ledger = Ledgers.open(folder, charter)) {
      assertThat(ledger.changes().of("it").get(0).what())
          .isEqualTo(
              "settle (approved by lia, gap "
                  + SavedGap.read(file).digest().substring(0, 12)
                  + ")");
    }
  }

  @Test
  void aCharterThatChangedSinceIsRefused() throws Exception {
    Path file = saved();
    estate.charter("select, insert");
    assertThatThrownBy(() -> settle(file))
        .isInstanceOf(BadInput.class)
        .hasMessageContaining("nothing was run")
        .hasMessageContaining("INSERT");
    assertThat(Settlement.planned(estate.task(), DEAF).plan().steps()).hasSize(3);
  }

  @Test
  void aServerThatChangedSinceIsRefusedAlsoWhereOnlyPeopleAreOthers() throws Exception {
    Path file = saved();
    // who is not governed gains by the same statements
    estate.run("create role reader", "create user v password 'x'", "grant reader to v");
    assertThatThrownBy(() -> settle(file)).hasMessageContaining("has changed since");
    Path again = saved();
    estate.run("create user w password 'x'", "grant reader to w");
    assertThatThrownBy(() -> settle(again))
        .hasMessageContaining("effects on people")
        .hasMessageContaining("W: select on S.T");
  }

  @Test
  void whatSomebodyWroteIntoTheFileIsSeen() throws Exception {
    Path file = saved();
    Files.writeString(file, Files.readString(file).replace("select on S.T", "select on S.U"));
    assertThatThrownBy(() -> settle(file)).hasMessageContaining("not as it was saved");
    Files.writeString(file, "[]");
    assertThatThrownBy(() -> settle(file)).hasMessageContaining("no saved gap");
    Files.writeString(file, "no JSON");
    assertThatThrownBy(() -> settle(file)).hasMessageContaining("not JSON");
    Files.delete(file);
    assertThatThrownBy(() -> settle(file)).hasMessageContaining("there is no");
  }
}
