package fiador.cli.ask;

import fiador.across.Atlas;
import fiador.changes.wanted.Accounts;
import fiador.effects.Holding;
import fiador.effects.Tracer;
import fiador.estate.Nearest;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.evidence.PeopleOf;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.report.rows.Format;
import fiador.report.rows.HoldingRows;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Tone;
import fiador.report.text.HoldingText;
import java.io.IOException;
import java.io.PrintStream;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** What one person holds as all their accounts, on all servers that are known, in one list. */
final class PersonHoldings {
  private final Identity person;
  private final Identities list;
  private final Clock clock;

  /** What an account holds, narrowed down as it was asked for. */
  @FunctionalInterface
  interface Held {
    List<Holding> of(Access access, int user) throws BadInput;
  }

  /** An account of the person. */
  private record Account(Access at, int user, List<Holding> rows) {}

  /**
   * @param named the person's key or name in the list; without a list, what their accounts are
   *     called everywhere
   * @param list the list; null for none
   * @param accounts what a charter says of its users' accounts
   */
  PersonHoldings(String named, @Nullable Identities list, Accounts accounts, Clock clock)
      throws BadInput {
    this.clock = clock;
    boolean charted = accounts.users().stream().anyMatch(named::equalsIgnoreCase);
    Identities people =
        list == null && !charted
            ? null
            : Objects.requireNonNullElse(list, Identities.NOBODY).joined(accounts);
    if (people == null) {
      this.person = new Identity(named, named, true, null, null, List.of(named));
      this.list = new Identities(List.of(person));
      return;
    }
    this.list = people;
    List<Identity> meant =
        people.people().stream()
            .filter(each -> each.key().equals(named) || each.name().equalsIgnoreCase(named))
            .toList();
    if (meant.size() != 1) {
      throw new BadInput(
          meant.isEmpty()
              ? "there is nobody called "
                  + named
                  + " in the list of people"
                  + Nearest.hint(
                      named, people.people().stream().flatMap(p -> Stream.of(p.key(), p.name())))
              : meant.size() + " people are called " + named + "; name one by the key");
    }
    this.person = meant.get(0);
  }

  /** Writes it; gives how many accounts there are. */
  int write(Atlas atlas, Held held, boolean full, Format format, int width, PrintStream out)
      throws BadInput, IOException {
    List<Account> accounts = new ArrayList<>();
    List<String> without = new ArrayList<>();
    for (Access access : atlas.all()) {
      int before = accounts.size();
      PeopleOf people = new PeopleOf(access, list);
      for (int id = 1; id < access.principals().size(); id++) {
        Identity whose = access.principals().isUser(id) ? people.of(id) : null;
        if (whose != null && Objects.equals(whose.key(), person.key())) {
          accounts.add(new Account(access, id, held.of(access, id)));
        }
      }
      if (accounts.size() == before) {
        without.add(access.about().server());
      }
    }
    if (format == Format.TEXT) {
      text(accounts, without, full, width, out);
    } else {
      rows(accounts, format, out);
    }
    return accounts.size();
  }

  private void text(
      List<Account> accounts, List<String> without, boolean full, int width, PrintStream out) {
    long servers = accounts.stream().map(each -> each.at().about().server()).distinct().count();
    String who = Tone.visible(person.name()) + (person.active() ? "" : ", who has left,");
    String answer =
        accounts.isEmpty()
            ? who + " has no account"
            : who
                + (accounts.size() == 1
                    ? " has 1 account on "
                    : " has " + accounts.size() + " accounts on ")
                + (servers == 1 ? "1 server" : servers + " servers");
    out.println((person.active() ? Tone.STRONG : Tone.BAD).of(answer));
    for (Account account : accounts) {
      HoldingText text =
          new HoldingText(
              account.at(), () -> new Tracer(account.at(), clock), width, clock.instant());
      out.println();
      out.print(
          full
              ? text.holdings(account.user(), account.rows())
              : text.summedUp(account.user(), account.rows()));
    }
    if (!without.isEmpty()) {
      out.println("\nno account on " + Tone.visible(String.join(", ", without)));
    }
  }

  private void rows(List<Account> accounts, Format format, PrintStream out) throws IOException {
    List<String> fields = new ArrayList<>();
    for (Account account : accounts) {
      if (fields.isEmpty()) {
        fields.addAll(new HoldingRows(account.at(), clock.instant()).fields());
      }
    }
    fields.addAll(List.of("server", "person"));
    try (RowWriter writer = RowWriter.to(out, format, fields)) {
      for (Account account : accounts) {
        HoldingRows contract = new HoldingRows(account.at(), clock.instant());
        for (Holding holding : account.rows()) {
          Map<String, Object> row = new LinkedHashMap<>(contract.row(holding));
          row.put("server", account.at().about().server());
          row.put("person", person.key());
          writer.row(row);
        }
      }
    }
  }
}
