package fiador.sweep.estate;

import fiador.across.Atlas;
import fiador.changes.steps.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.PeopleOfAccounts;
import fiador.grants.Access;
import fiador.grants.Unread;
import fiador.refusal.BadInput;
import fiador.report.shown.NoLogin;
import fiador.report.text.FindingText;
import fiador.sweep.tables.Sink;
import fiador.sweep.tables.Table;
import fiador.work.charters.Dialects;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Writes what there is to know of one server. A large one is worked out in several parts, each with
 * its share of the users; the first has all that is not of users too.
 */
public final class EstateRows {
  /** Of lines that nobody sees. */
  private static final int WIDTH = 100;

  private final Access access;
  private final Known known;
  private final Clock clock;
  private final @Nullable Identities identities;
  private final PeopleOfAccounts people;

  public EstateRows(Access access, Known known) {
    this.access = access;
    this.known = known;
    this.clock = Clock.fixed(Instant.ofEpochSecond(known.now()), ZoneOffset.UTC);
    this.identities = known.identities();
    this.people =
        new PeopleOfAccounts(new Facts(access, clock, Expected.NOTHING, null, identities));
  }

  /**
   * How much it was.
   *
   * @param accounts users
   * @param holdings rows of all of them
   * @param findings rows of findings
   */
  public record Counts(long accounts, long holdings, long findings)
      implements java.io.Serializable {}

  /** The key of whose an account is; null where that is not known. */
  public @Nullable String person(int user) {
    Identity person = people.of(user);
    return person == null ? null : person.key();
  }

  /**
   * Writes a part.
   *
   * @param server what the server is called in the sweep
   * @param part which, from 0
   * @param parts of how many
   */
  public Counts write(String server, int part, int parts, Sink sink) throws IOException {
    Holdings holdings = new Holdings(access, clock, false);
    Alike alike = new Alike(access, part, sink);
    long accounts = 0;
    long rows = 0;
    int seen = 0;
    for (int user = 1; user < access.principals().size(); user++) {
      if (!access.principals().isUser(user) || seen++ % parts != part) {
        continue;
      }
      List<Holding> held = holdings.of(user);
      Identity person = people.of(user);
      sink.row(
          Table.ACCOUNTS,
          access.principals().name(user),
          person == null ? null : person.key(),
          person == null ? null : person.name(),
          alike.keep(held),
          (long) held.size(),
          NoLogin.why(access, user, clock.instant()));
      accounts++;
      rows += held.size();
    }
    long found = 0;
    if (part == 0) {
      found = findings(sink);
      new LabelledThings(access, sink).write(server, known.labels());
    }
    return new Counts(accounts, rows, found);
  }

  private long findings(Sink sink) throws IOException {
    Findings.Result result = Findings.of(access, clock, Expected.NOTHING, null, identities);
    FindingText text = new FindingText(access, WIDTH, clock.instant(), statements());
    for (Finding finding : result.open()) {
      Map<String, Object> row = text.row(finding);
      sink.row(Table.FINDINGS, FindingText.FIELDS.stream().map(row::get).toArray());
    }
    return result.open().size();
  }

  /** What carries steps out; nothing on a kind whose house sheet is not at hand. */
  private Function<List<Step>, List<String>> statements() throws IOException {
    try {
      return Dialects.statements(null, access);
    } catch (BadInput unknown) {
      return steps -> List.of();
    }
  }

  /** The row of the server itself, but for what only whoever sweeps knows. */
  public Sum sum() {
    long roles = 0;
    for (int id = 1; id < access.principals().size(); id++) {
      roles += access.principals().isUser(id) ? 0 : 1;
    }
    long objects = 0;
    for (int node = 0; node < access.tree().size(); node++) {
      boolean ours = access.tree().kind(node).isObject() && !access.tree().isSystem(node);
      objects += ours ? 1 : 0;
    }
    String unread = Unread.inWords(access);
    return new Sum(
        access.about().server(),
        access.about().kind(),
        access.about().version(),
        access.about().taken() == null ? 0 : Changes.micros(access.about().taken()),
        roles,
        objects,
        access.grants().size(),
        unread.isEmpty() ? null : unread,
        Deadline.of(access, clock.instant()),
        new ArrayList<>(access.seen().abroad().addresses()),
        new ArrayList<>(Atlas.leads(access)));
  }

  /**
   * What a server is.
   *
   * @param name what its survey calls it
   * @param surveyed when it was, in microseconds since 1970
   * @param unread what its survey did not look into; null for nothing
   * @param until see {@link Deadline}
   * @param addresses where it is reached
   * @param leads the addresses to which tables of it lead
   */
  public record Sum(
      String name,
      String kind,
      String version,
      long surveyed,
      long roles,
      long objects,
      long grants,
      @Nullable String unread,
      long until,
      ArrayList<String> addresses,
      ArrayList<String> leads)
      implements java.io.Serializable {}
}
