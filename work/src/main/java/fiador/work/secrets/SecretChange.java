package fiador.work.secrets;

import fiador.changes.wanted.OnServer;
import fiador.files.charter.Charter;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.selection.NamePattern;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.SecretSql;
import fiador.servers.live.SecretRun;
import fiador.servers.live.SettleRun;
import fiador.work.charters.Ledgers;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * New secrets for accounts that are there. The ledger keeps whose were changed, when and by whom;
 * neither it nor a journal keeps a secret, and nothing takes a change back.
 */
public final class SecretChange {
  /** What the ledger calls it. */
  public static final String WHAT = "secret";

  private final Path folder;
  private final Charter charter;
  private final Charter.ServerEntry entry;
  private final Access access;
  private final Clock clock;

  /**
   * @param folder the charter's folder
   * @param entry which of its servers
   * @param access the server as it is
   */
  public SecretChange(
      Path folder, Charter charter, Charter.ServerEntry entry, Access access, Clock clock) {
    this.folder = folder;
    this.charter = charter;
    this.entry = entry;
    this.access = access;
    this.clock = clock;
  }

  /**
   * The accounts that are meant, by what their users are called: several where a server tells one
   * user's accounts apart by where they come from.
   *
   * @param typed names, with a host or without one, and patterns ({@code *} and {@code ?})
   * @throws BadInput when one means nobody, or a role
   */
  public Map<String, List<String>> accounts(List<String> typed) throws BadInput {
    Map<String, List<String>> found = new LinkedHashMap<>();
    for (String name : typed) {
      Set<Integer> meant = NamePattern.is(name) ? matching(name) : named(name);
      for (int id : meant) {
        List<String> of = found.computeIfAbsent(access.bareName(id), fresh -> new ArrayList<>());
        if (!of.contains(access.principals().name(id))) {
          of.add(access.principals().name(id));
        }
      }
    }
    return found;
  }

  private Set<Integer> matching(String typed) throws BadInput {
    NamePattern pattern = new NamePattern(typed);
    Set<Integer> found = new LinkedHashSet<>();
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id) && pattern.matches(access.bareName(id))) {
        found.add(id);
      }
    }
    if (found.isEmpty()) {
      throw new BadInput("no user's name is like " + typed);
    }
    return found;
  }

  private Set<Integer> named(String typed) throws BadInput {
    Set<Integer> found = called(typed);
    if (found.isEmpty()) {
      // nobody here is called so; the charter may call somebody so who has another name here
      OnServer here = new OnServer(entry.name(), charter.expected().accounts());
      found = called(here.nameOrOwn(typed));
    }
    if (!found.isEmpty()) {
      return found;
    }
    Lookup.Found one = new Lookup(access).principal(typed);
    if (one.ok() && access.principals().isUser(one.id())) {
      return Set.of(one.id());
    }
    throw new BadInput(
        one.ok() ? typed + " is a role, and only users have secrets" : one.problem());
  }

  private Set<Integer> called(String name) {
    Set<Integer> found = new LinkedHashSet<>();
    String folded = access.rules().fold(name);
    for (int id = 1; id < access.principals().size(); id++) {
      String bare = access.principals().isUser(id) ? access.bareName(id) : null;
      if (name.equals(bare) || folded.equals(bare)) {
        found.add(id);
      }
    }
    return found;
  }

  /**
   * Changes them; the server is surveyed again, so that the ledger has nothing else in between.
   *
   * @param accounts as {@link #accounts} gives them
   * @param secrets by what a user is called; what it gives is wiped
   * @param done is told each account once its secret is changed
   */
  public void run(
      Map<String, List<String>> accounts,
      SecretRun.Way way,
      SettleRun.Secrets secrets,
      Consumer<String> done)
      throws Refusal, IOException {
    List<String> all = accounts.values().stream().flatMap(List::stream).toList();
    Map<String, String> userOf = new LinkedHashMap<>();
    accounts.forEach((user, of) -> of.forEach(account -> userOf.put(account, user)));
    SecretSql sql = Surveys.kind(entry).dialect().secrets();
    List<String> shown =
        way == SecretRun.Way.DROPS_OLDER ? List.of() : all.stream().map(sql::shown).toList();
    try (Ledger ledger = Ledgers.open(folder, charter)) {
      long change = begins(ledger, shown);
      boolean[] any = new boolean[1];
      try {
        new SecretRun(Surveys.kind(entry), Surveys.login(entry))
            .change(
                all,
                way,
                account -> secrets.of(userOf.getOrDefault(account, account)),
                account -> {
                  any[0] = true;
                  done.accept(account);
                });
      } catch (ServerException refused) {
        if (ledger != null && !any[0]) {
          ledger.changes().refused(change, clock.instant());
        }
        throw refused;
      }
      if (ledger != null) {
        ledger.changes().ended(change, clock.instant());
        ledger.record(survey());
      }
    }
  }

  private long begins(@Nullable Ledger ledger, List<String> shown) throws IOException {
    if (ledger == null) {
      return 0;
    }
    ledger.record(access);
    String server = entry.name();
    return ledger.changes().begins(server, WHAT, Ledgers.runner(), clock.instant(), shown);
  }

  private Access survey() throws ServerException {
    return Surveys.live(charter, entry, List.of(), clock.instant(), note -> {});
  }
}
