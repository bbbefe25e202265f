package fiador.files.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.RandomAccess;
import fiador.files.ready.ReadyStates;
import fiador.files.ready.ReadySurveys;
import fiador.grants.Access;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a ledger keeps is opened in its ready form, once there is one. */
final class ReadyLedgerTest {
  private static final int DAYS = 6;

  @TempDir Path folder;
  private final List<String> notes = new ArrayList<>();

  private Path file() {
    return folder.resolve("ledger.db");
  }

  private List<Path> forms() throws Exception {
    try (Stream<Path> forms = Files.list(folder.resolve("ledger.db.ready"))) {
      return forms.filter(form -> form.toString().endsWith(".ready")).sorted().toList();
    }
  }

  private static Access of(int day) {
    // each estate stands on two days
    return LedgerTest.at(RandomAccess.of(1 + day / 2), Duration.ofDays(day));
  }

  private Ledger opened() throws Exception {
    return Ledger.open(file()).ready(new ReadySurveys(notes::add, Runnable::run));
  }

  private void recordAll() throws Exception {
    try (Ledger ledger = Ledger.open(file())) {
      for (int day = 0; day < DAYS; day++) {
        ledger.record(of(day));
      }
    }
  }

  private void allAreRight() throws Exception {
    try (Ledger ledger = opened()) {
      for (int day = 0; day < DAYS; day++) {
        Access read = ledger.read(ledger.surveys("box").get(day));
        assertThat(LedgerTest.text(read)).as("day %d", day).isEqualTo(LedgerTest.text(of(day)));
        assertThat(read.about().taken()).isEqualTo(of(day).about().taken());
        assertThat(read.about().recalled()).isTrue();
      }
    }
  }

  @Test
  void eachSurveyHasOneOfItsOwn() throws Exception {
    recordAll();
    allAreRight();
    assertThat(forms()).hasSize(DAYS);
    allAreRight();
    assertThat(notes).isEmpty();
  }

  @Test
  void theFormOfAnotherIsNotBelieved() throws Exception {
    recordAll();
    allAreRight();
    List<Path> forms = forms();
    byte[] other = Files.readAllBytes(forms.get(0));
    for (Path form : forms.subList(1, DAYS)) {
      Files.write(form, other);
    }
    allAreRight();
    assertThat(notes).hasSize(DAYS - 1).allMatch(note -> note.contains("is of another survey"));
    notes.clear();
    allAreRight();
    assertThat(notes).isEmpty();
  }

  @Test
  void whatIsDamagedIsMadeGoodAlsoWhenTheLedgerIsClosedAlready() throws Exception {
    recordAll();
    allAreRight();
    for (Path form : forms()) {
      byte[] bytes = Files.readAllBytes(form);
      // the first piece of the first column: where texts begin
      bytes["fiador ready form 1\n".length() + 6] ^= 1;
      Files.write(form, bytes);
    }
    List<Access> all = new ArrayList<>();
    try (Ledger ledger = opened()) {
      for (Ledger.Survey survey : ledger.surveys("box")) {
        all.add(ledger.read(survey));
      }
    }
    for (int day = 0; day < DAYS; day++) {
      assertThat(LedgerTest.text(all.get(day))).isEqualTo(LedgerTest.text(of(day)));
    }
    assertThat(notes).hasSize(DAYS).allMatch(note -> note.endsWith("made anew from the ledger"));
  }

  @Test
  void whereThereIsNoRoomThoseNotUsedForADayGo() throws Exception {
    recordAll();
    allAreRight();
    List<Path> forms = forms();
    Files.setLastModifiedTime(forms.get(2), FileTime.from(Instant.now().minusSeconds(90_000)));
    ReadyStates full = new ReadyStates(file(), 1, notes::add);
    byte[] digest = new byte[32];
    assertThat(LedgerTest.text(full.read(digest, () -> of(1)))).isEqualTo(LedgerTest.text(of(1)));
    assertThat(forms()).hasSize(DAYS - 1).doesNotContain(forms.get(2));
  }
}
