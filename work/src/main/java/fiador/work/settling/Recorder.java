package fiador.work.settling;

import fiador.changes.steps.Step;
import fiador.files.journal.Journal;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.servers.live.SettleRun;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What is written down while a change is carried out: each step in the journal before it is sent,
 * and the change as a whole in the ledger before it begins.
 */
final class Recorder implements AutoCloseable, SettleRun.Witness {
  private static final long UNRECORDED = -1;

  private final Task task;
  private final Listener listener;
  private @Nullable Journal journal;
  private long change = UNRECORDED;
  private int lasting;

  Recorder(Task task, Listener listener) {
    this.task = task;
    this.listener = listener;
  }

  /** How many steps last. */
  int lasting() {
    return lasting;
  }

  /** Better not to begin than to change something without a record. */
  void begins(Access before, String what, List<Step> steps) throws IOException {
    listener.begins(steps.size());
    try (Ledger ledger = Ledgers.open(task.folder(), task.charter())) {
      if (ledger != null) {
        ledger.record(before);
        List<String> statements = task.kind().dialect().shown(steps);
        String server = task.entry().name();
        Instant now = task.clock().instant();
        change = ledger.changes().begins(server, what, Ledgers.runner(), now, statements);
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
      try (Ledger ledger = kept()) {
        ledger.changes().ended(change, task.clock().instant());
      }
    }
  }

  /** Nothing of it lasts. */
  void refused() throws IOException {
    if (journal != null) {
      journal.refused();
    }
    if (change != UNRECORDED) {
      try (Ledger ledger = kept()) {
        ledger.changes().refused(change, task.clock().instant());
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
    listener.waits(sql);
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
    listener.done(some, sql);
  }

  @Override
  public void lasts(int steps) {
    lasting += steps;
  }

  @Override
  public void close() throws IOException {
    listener.ends();
    if (journal != null) {
      journal.close();
    }
  }

  /** The ledger that the change was noted in. */
  private Ledger kept() throws IOException {
    return Objects.requireNonNull(Ledgers.open(task.folder(), task.charter()), "a ledger");
  }
}
