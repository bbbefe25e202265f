package fiador.cli.draw;

import fiador.changes.Gap;
import fiador.cli.ask.Turns;
import fiador.files.charter.Charter;
import fiador.files.ledger.Ledger;
import fiador.files.ready.ReadySurveys;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.history.FactDifference;
import fiador.refusal.Refusal;
import fiador.report.page.Supplement;
import fiador.report.page.Supplement.Count;
import fiador.report.page.Supplement.Past;
import fiador.report.text.HistoryText;
import fiador.report.text.HistoryText.Moment;
import fiador.work.charters.Ledgers;
import fiador.work.settling.Task;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * What goes into a page beside the estate, where there is a charter: what settling it would change,
 * and what changed so far. What cannot be worked out is said and left out.
 */
final class Supplements {
  private static final int MOST_CHANGES = 30;
  private static final int MOST_LINES = 60;

  /** So many things are counted in a second or two, all surveys together. */
  private static final long MOST_COUNTED = 60_000;

  private final Access access;
  private final Path folder;
  private final Charter charter;
  private final Clock clock;
  private final Consumer<String> notes;

  Supplements(Access access, Path folder, Charter charter, Clock clock, Consumer<String> notes) {
    this.access = access;
    this.folder = folder;
    this.charter = charter;
    this.clock = clock;
    this.notes = notes;
  }

  Supplement with(List<Finding> findings, @Nullable String notLooked, ReadySurveys surveys) {
    Gap gap = gap();
    List<Past> history = new ArrayList<>();
    List<Count> overTime = new ArrayList<>();
    past(surveys, history, overTime);
    return new Supplement(
        findings,
        notLooked,
        gap == null ? null : gap.effects(),
        gap == null ? null : gap.outcome().after(),
        history,
        overTime);
  }

  private @Nullable Gap gap() {
    Charter.ServerEntry entry = charter.servers().get(access.about().server());
    if (entry == null || !entry.kind().equals(access.about().kind())) {
      return null;
    }
    try {
      return new Task(folder, charter, entry, false, clock).gap(access);
    } catch (Refusal unmet) {
      notes.accept("the page says nothing of the charter's gap: " + unmet.getMessage());
      return null;
    }
  }

  private void past(ReadySurveys surveys, List<Past> history, List<Count> overTime) {
    String kept = charter.ledger().url();
    boolean file = !kept.startsWith("jdbc:") && !kept.equals(Charter.LedgerEntry.NONE);
    if (!file || !Files.isRegularFile(folder.resolve(kept))) {
      return;
    }
    try (Ledger opened = Ledgers.existing(folder, charter)) {
      Ledger ledger = opened.ready(surveys);
      String server = access.about().server();
      if (ledger.servers().contains(server)) {
        List<Ledger.Turn> turns = new ArrayList<>(ledger.turns(server));
        List<Ledger.Turn> last =
            turns.subList(Math.max(0, turns.size() - MOST_CHANGES), turns.size());
        for (Ledger.Turn turn : last) {
          Access later = ledger.read(turn.first());
          if ((long) later.tree().size() * last.size() <= MOST_COUNTED) {
            overTime.add(Count.of(later, clock));
          }
          if (turn.last() != null) {
            history.add(0, past(turn, ledger.read(turn.last()), later));
          }
        }
      }
    } catch (Refusal | IOException unreadable) {
      notes.accept("the page does not say all of the past: " + unreadable.getMessage());
    }
  }

  private static Past past(Ledger.Turn turn, Access earlier, Access later) {
    Moment moment = Turns.moment(turn);
    HistoryText text = new HistoryText(earlier, later, moment, MOST_LINES);
    return new Past(moment.text(), text.lines(FactDifference.between(earlier, later), MOST_LINES));
  }
}
