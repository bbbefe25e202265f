package fiador.findings.policies;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.TreeMap;
import java.util.function.Consumer;

/** People who read the key of digests, with which short values can be tried until one fits. */
public final class DigestKeyRead implements Check {
  static final Asked ASKED =
      new Asked(
          "digest-key-read",
          Severity.MEDIUM,
          "Who can read the key of digests, and so guess the values behind them?",
          "Take the right to read everything away, then make a new key (docs/policies.md).");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    new TreeMap<>(facts.access.sights().guards())
        .forEach(
            (database, guard) -> {
              int table = facts.tree.child(guard, "digest_key", any -> true);
              IntArrayList readers = table < 0 ? new IntArrayList() : readers(facts, table);
              if (!readers.isEmpty()) {
                Phrase said = Phrase.of("can be read by accounts that do not administer it");
                found.accept(Finding.at(ASKED, table, said).concerns(readers));
              }
            });
  }

  /** Who may also write there administers it, and could read it in any case. */
  private static IntArrayList readers(Facts facts, int table) {
    IntOpenHashSet reading = new IntOpenHashSet();
    IntOpenHashSet writing = new IntOpenHashSet();
    for (Holding row : new Holders(facts.access, facts.clock).of(table)) {
      boolean open = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
      if (open && row.privilege() == Privilege.SELECT) {
        reading.add(row.user());
      } else if (open && row.privilege() == Privilege.UPDATE) {
        writing.add(row.user());
      }
    }
    reading.removeAll(writing);
    IntArrayList readers = new IntArrayList(reading);
    readers.sort(null);
    return readers;
  }
}
