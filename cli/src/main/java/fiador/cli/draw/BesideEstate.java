package fiador.cli.draw;

import fiador.changes.Gap;
import fiador.cli.ask.HistoryCommand;
import fiador.files.charter.Charter;
import fiador.files.ledger.Ledger;
import fiador.files.ready.ReadySurveys;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.history.FactDifference;
import fiador.refusal.Refusal;
import fiador.report.page.Beside;
import fiador.report.page.Beside.Past;
import fiador.report.text.HistoryText;
import fiador.report.text.HistoryText.Moment;
import fiador.work.charters.Ledgers;
import fiador.work.settling.Task;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * What goes into a page beside the estate, where there is a charter: what settling it would change,
 * and what changed so far. What cannot be worked out is said and left out.
 */
final class BesideEstate {
  private static final int MOST_CHANGES = 30;
  private static final int MOST_LINES = 60;

  private final Access access;
  private final Path folder;
  private final Charter charter;
  private final Clock clock;
  private final Consumer<String> notes;

  BesideEstate(Access access, Path folder, Charter charter, Clock clock, Consumer<String> notes) {
    this.access = access;
    this.folder = folder;
    this.charter = charter;
    this.clock = clock;
    this.notes = notes;
  }

  Beside with(List<Finding> findings, @Nullable String notLooked, ReadySurveys surveys) {
    Gap gap = gap();
    return new Beside(
        findings,
        notLooked,
        gap == null ? null : gap.effects(),
        gap == null ? null : gap.outcome().after(),
        history(surveys));
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

  private List<Past> history(ReadySurveys surveys) {
    String kept = charter.ledger().url();
    boolean file = !kept.startsWith("jdbc:") && !kept.equals(Charter.LedgerEntry.NONE);
    if (!file || !Files.isRegularFile(folder.resolve(kept))) {
      return List.of();
    }
    try (Ledger opened = Ledgers.existing(folder, charter)) {
      Ledger ledger = opened.ready(surveys);
      String server = access.about().server();
      if (!ledger.servers().contains(server)) {
        return List.of();
      }
      List<Ledger.Turn> turns = new ArrayList<>(ledger.turns(server));
      Collections.reverse(turns);
      List<Past> found = new ArrayList<>();
      for (Ledger.Turn turn : turns) {
        if (turn.last() != null && found.size() < MOST_CHANGES) {
          Access earlier = ledger.read(turn.last());
          Access later = ledger.read(turn.first());
          Moment moment = HistoryCommand.moment(turn);
          HistoryText text = new HistoryText(earlier, later, moment, MOST_LINES);
          found.add(
              new Past(
                  moment.text(), text.lines(FactDifference.between(earlier, later), MOST_LINES)));
        }
      }
      return found;
    } catch (Refusal | IOException unreadable) {
      notes.accept("the page says nothing of the past: " + unreadable.getMessage());
      return List.of();
    }
  }
}
