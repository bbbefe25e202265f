package fiador.work.charters;

import fiador.files.charter.Charter;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.history.GrantDates;
import fiador.history.GrantDates.Since;
import fiador.refusal.Refusal;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** Since when grants are there, from the ledger of a charter. */
public final class Dating {
  private Dating() {}

  /**
   * Since when each grant of a server is there, by {@link GrantDates#key}. Cost: reading the states
   * the ledger has of it, the newest first, as long as one tells something.
   */
  public static Map<String, Since> of(Path folder, Access now) throws Refusal, IOException {
    Charter charter = Charters.read(folder);
    String server = now.about().server();
    Instant taken = now.about().taken();
    GrantDates dates = new GrantDates(now, taken == null ? Instant.MAX : taken);
    try (Ledger ledger = Ledgers.existing(folder, charter)) {
      List<Ledger.Turn> turns = ledger.turns(server);
      for (int at = turns.size() - 1; at >= 0; at--) {
        Ledger.Survey first = turns.get(at).first();
        boolean known = taken != null && first.taken().isAfter(taken);
        if (!known && !dates.add(ledger.read(first), first.taken())) {
          break;
        }
      }
    }
    return dates.result();
  }
}
