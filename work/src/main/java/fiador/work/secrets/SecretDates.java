package fiador.work.secrets;

import fiador.changes.steps.CreateUser;
import fiador.estate.Account;
import fiador.files.charter.Charter;
import fiador.files.ledger.ChangeBook;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.servers.kind.Dialect;
import fiador.work.charters.Dialects;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;

/** Since when secrets are as they are, from the ledger, where the server itself does not tell. */
public final class SecretDates {
  private SecretDates() {}

  /**
   * The same estate, with the dates of the secrets that Fiador itself has set. Cost: the changes
   * that the ledger has of that server.
   */
  public static Access known(Access access, Path folder, Charter charter)
      throws BadInput, IOException {
    String url = charter.ledger().url();
    boolean none = url.equals(Charter.LedgerEntry.NONE);
    if (none || !url.startsWith("jdbc:") && !Files.isRegularFile(folder.resolve(url))) {
      return access;
    }
    Map<String, Instant> set = new HashMap<>();
    try (Ledger ledger = Objects.requireNonNull(Ledgers.open(folder, charter), "a ledger")) {
      for (ChangeBook.Change change : ledger.changes().of(access.about().server())) {
        if (change.ended() != null && !change.wasRefused()) {
          change.statements().forEach(statement -> set.put(statement, change.ended()));
        }
      }
    }
    Dialect dialect = Dialects.of(folder, access);
    Map<Integer, Account> dated = new HashMap<>();
    for (int id = 1; id < access.principals().size(); id++) {
      Account account = access.principals().account(id);
      if (access.principals().isUser(id) && account.secretSince() == null) {
        String name = access.principals().name(id);
        Instant made = set.get(dialect.sql(new CreateUser(name)));
        Instant changed = set.get(dialect.secrets().shown(name));
        Instant since = changed == null || made != null && made.isAfter(changed) ? made : changed;
        if (since != null) {
          dated.put(id, account.withSecretSince(since.truncatedTo(ChronoUnit.SECONDS)));
        }
      }
    }
    return dated.isEmpty() ? access : access.withAccounts(dated);
  }
}
