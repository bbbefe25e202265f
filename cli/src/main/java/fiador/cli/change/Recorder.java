package fiador.cli.change;

import fiador.changes.steps.Step;
import fiador.cli.shell.Common;
import fiador.cli.shell.Ledgers;
import fiador.cli.shell.Progress;
import fiador.files.charter.Charter;
import fiador.files.journal.Journal;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.servers.live.SettleRun;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;

/**
 * What is written down while a change is carried out: each step in the journal before it is sent,
 * and the change as a whole in the ledger before it begins.
 */
final class Recorder implements AutoCloseable, SettleRun.Witness {
  private static final long UNRECORDED = -1;

  private final Path folder;
  private final Charter charter;
  private final Clock clock;
  private final Common command;
  private final Progress progress;
  private Journal journal;
  private long change = UNRECORDED;
  private int lasting;

  /**
   * @param steps how many steps there are
   * @param command who is told
   */
  Recorder(Path folder, Charter charter, int steps, Common command) {
    this.folder = folder;
    this.charter = charter;
    this.clock = command.clock;
    this.command = command;
    this.progress = Progress.of("settling", steps, "steps", command);
  }

  /** How many steps last. */
  int lasting() {
    return lasting;
  }

  /** Better not to begin than to change something without a record. */
  void begins(Access before, String server, String what, List<String> statements)
      throws IOException {
    try (Ledger ledger = Ledgers.open(folder, charter)) {
      if (ledger != null) {
        ledger.record(before);
        change = ledger.changing(server, what, Ledgers.runner(), clock.instant(), statements);
      }
    }
  }

  /** Where each step is written; without, a journal that is there says what is left. */
  void into(Journal to) {
    journal = to;
  }

  /** All of it was carried out. */
  void finished() throws IOException {
    if (journal != null) {
      journal.finished();
    }
    if (change != UNRECORDED) {
      try (Ledger ledger = Ledgers.open(folder, charter)) {
        ledger.changed(change, clock.instant());
      }
    }
  }

  /** Nothing of it lasts. */
  void refused() throws IOException {
    if (journal != null) {
      journal.refused();
    }
    if (change != UNRECORDED) {
      try (Ledger ledger = Ledgers.open(folder, charter)) {
        ledger.refused(change, clock.instant());
      }
    }
  }

  @Override
  public void begins(List<Step> some) {
    if (journal != null) {
      try {
        journal.begins(some);
      } catch (IOException full) {
        // better to stop than to go on without a record
        throw new UncheckedIOException(full);
      }
    }
  }

  @Override
  public void waits(String sql) {
    command.say("somebody holds what is needed, trying again: " + sql);
  }

  @Override
  public void done(List<Step> some, String sql) {
    if (journal != null) {
      try {
        journal.done(some);
      } catch (IOException full) {
        throw new UncheckedIOException(full);
      }
    }
    progress.more(some.size());
    if (command.verbose) {
      command.err.println(sql);
    }
  }

  @Override
  public void lasts(int steps) {
    lasting += steps;
  }

  @Override
  public void close() throws IOException {
    progress.close();
    if (journal != null) {
      journal.close();
    }
  }
}
