package fiador.work.charters;

import fiador.changes.wanted.OnPaper;
import fiador.estate.NodeKind;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterReader;
import fiador.files.ledger.Ledger;
import fiador.files.ready.ReadySurveys;
import fiador.grants.Access;
import fiador.grants.rules.HouseRules;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Finds what a question is to be answered from. */
public final class Choosing {
  private final Path here;
  private final Clock clock;
  private final Consumer<String> notes;
  private final ReadySurveys surveys;

  /**
   * @param here the folder in which the question is asked
   * @param notes told what could not be looked at, where a server is surveyed
   * @param surveys opens survey files
   */
  public Choosing(Path here, Clock clock, Consumer<String> notes, ReadySurveys surveys) {
    this.here = here;
    this.clock = clock;
    this.notes = notes;
    this.surveys = surveys;
  }

  /**
   * The estate to ask.
   *
   * @param from a survey file, a charter's folder, or a server of the charter here; null for the
   *     charter here
   * @param at a day or time that is past, as it was written; null for now
   * @throws Refusal when there is nothing of that kind
   */
  public Chosen choose(@Nullable String from, @Nullable String at) throws Refusal, IOException {
    if (at != null) {
      return then(from, at);
    }
    if (from == null) {
      return newest(here);
    }
    Path path = Path.of(from);
    if (Files.isRegularFile(path)) {
      return chosen(surveys.read(path));
    }
    if (Files.isDirectory(path)) {
      return newest(path);
    }
    if (Files.isRegularFile(here.resolve(CharterReader.ROOT))) {
      Charter charter = Charters.read(here);
      if (charter.servers().containsKey(from)) {
        Charter.ServerEntry entry = charter.servers().get(from);
        return chosen(Surveys.take(charter, entry, clock.instant(), notes));
      }
    }
    throw new BadInput(
        "--from "
            + from
            + " is no survey file, no charter's folder and no server of the charter here");
  }

  private Chosen chosen(Access access) {
    return new Chosen(access, clock, false, null);
  }

  /** The survey that was the newest then. */
  private Chosen then(@Nullable String from, String at) throws Refusal, IOException {
    boolean elsewhere = from != null && Files.isDirectory(Path.of(from));
    Path folder = elsewhere ? Path.of(from) : here;
    if (from != null && !elsewhere && Files.isRegularFile(Path.of(from))) {
      throw new BadInput(
          "--at asks the ledger of a charter, and "
              + from
              + " is a survey file; fiador history --take-in puts it there");
    }
    Charter charter = Charters.read(folder);
    String server = Charters.server(charter, elsewhere ? null : from).name();
    Instant end = Ledgers.end(at);
    try (Ledger ledger = Ledgers.existing(folder, charter)) {
      List<Ledger.Survey> all = ledger.surveys(server);
      int older = (int) all.stream().filter(each -> !each.taken().isAfter(end)).count();
      if (older == 0) {
        throw new BadInput(
            "the ledger knows nothing of "
                + server
                + " at "
                + at
                + (all.isEmpty() ? "" : "; it begins at " + all.get(0).taken()));
      }
      Ledger.Survey survey = all.get(older - 1);
      Ledger.Survey next = older == all.size() ? null : all.get(older);
      boolean same = next != null && next.state().equals(survey.state());
      Chosen.Past past = new Chosen.Past(survey.taken(), next == null ? null : next.taken(), same);
      return new Chosen(
          ledger.ready(surveys).read(survey), Clock.fixed(end, ZoneOffset.UTC), false, past);
    }
  }

  private Chosen newest(Path folder) throws Refusal, IOException {
    Path only = Surveys.only(folder);
    if (only != null) {
      return chosen(surveys.read(only));
    }
    Charter charter = Charters.read(folder);
    Charter.ServerEntry server = Charters.server(charter, null);
    Path file = Surveys.file(folder, server.name());
    return Files.isRegularFile(file)
        ? chosen(surveys.read(file))
        : new Chosen(onPaper(charter, server, clock.instant()), clock, true, null);
  }

  private static Access onPaper(Charter charter, Charter.ServerEntry server, Instant now) {
    String database = server.url().replaceFirst("\\?.*$", "").replaceFirst("^.*[/:]", "");
    HouseRules rules = Objects.requireNonNull(server.rules(), "a kind no charter may have");
    boolean hasDatabases = rules.privilegesOn(NodeKind.DATABASE) != 0;
    String home = hasDatabases ? database : null;
    return OnPaper.of(charter.on(server.name()).wanted(), server.name(), rules, home, now);
  }
}
