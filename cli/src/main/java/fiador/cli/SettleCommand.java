package fiador.cli;

import fiador.changes.Done;
import fiador.changes.Gap;
import fiador.changes.Step;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.journal.Journal;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.report.ChangeText;
import fiador.servers.Server;
import fiador.servers.ServerException;
import fiador.servers.SettleRun;
import java.io.Console;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.CharBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import java.util.TreeMap;

final class SettleCommand extends Change {
  boolean dryRun;
  boolean resume;
  boolean undo;

  @Override
  void options(Options options) {
    super.options(options);
    options.flag("--dry-run", given -> dryRun = given, "Shows the SQL and runs nothing.");
    options.flag(
        "--resume",
        given -> resume = given,
        "Goes on with the last settle, which was stopped half-way.");
    options.flag("--undo", given -> undo = given, "Takes back what the last settle did.");
  }

  /** Where secrets come from when it is not the environment or a terminal; the tour has its own. */
  SettleRun.Secrets otherSecrets;

  private Charter charter;
  private Charter.ServerEntry entry;
  private Server kind;
  private SettleRun run;
  private SettleRun.Secrets secrets = user -> new char[0];
  private int carriedOut;

  @Override
  String[] description() {
    return new String[] {
      "Makes a server what the charter says: creates, gives, changes owners, then takes what the charter",
      "governs and does not list. Surveys again afterwards. Running it again does nothing."
    };
  }

  @Override
  String[] footer() {
    return new String[] {
      "",
      "Every step is written into a journal beside the survey before it is carried out. After a stop",
      "half-way --resume goes on, and --undo takes back whatever took effect.",
      "",
      "The secret of a new user comes from the environment, FIADOR_SECRET_ and the name in capitals with",
      "_ for all but letters and digits (FIADOR_SECRET_INES_DUARTE), or is asked for on a terminal.",
      "",
      "Examples:",
      "  fiador gap                  first look at what it would do, to people too",
      "  fiador settle --dry-run     shows the SQL; exit code 1 when there is something to do",
      "  fiador settle waterworks",
      "  fiador settle --undo        back to what it was before the last settle"
    };
  }

  @Override
  int run() throws BadInput, CharterException, ServerException, IOException {
    charter = Charters.read(folder);
    entry = Charters.server(charter, server);
    kind = Surveys.kind(entry);
    if (dryRun && !resume && !undo) {
      Gap gap = gap(survey(), charter, entry);
      int code = shown(gap.plan().steps());
      sayNotes(gap);
      return code;
    }
    run = new SettleRun(kind, Surveys.login(entry), user -> secrets.of(user));
    SettleRun.Lock lock = run.lock();
    try {
      return resume || undo ? fromJournal() : settle();
    } finally {
      lock.close();
    }
  }

  private Access survey() throws ServerException {
    return Surveys.take(charter, entry, clock.instant(), this::note);
  }

  private int shown(List<Step> steps) {
    List<String> statements = statements(kind, steps);
    statements.forEach(sql -> out.println(sql + ";"));
    String count = statements.size() == 1 ? "1 statement" : statements.size() + " statements";
    say(steps.isEmpty() ? "nothing to do" : count + "; nothing was run");
    return steps.isEmpty() ? Exit.YES : Exit.NO;
  }

  private int settle() throws BadInput, ServerException, IOException {
    Access before = survey();
    Path journal = journal(folder, entry.name());
    Journal.Contents last = Files.isRegularFile(journal) ? Journal.read(journal) : null;
    if (last != null) {
      belongs(journal, last);
    }
    if (last != null && isHalfWay(last, new Done(before))) {
      throw new BadInput(
          "the last settle of "
              + entry.name()
              + " was stopped half-way; fiador settle --resume goes on, --undo takes it back");
    }
    Gap gap = gap(before, charter, entry);
    List<Step> steps = gap.plan().steps();
    if (steps.isEmpty()) {
      surveyed(before);
      out.println("nothing to do: " + entry.name() + " is as the charter says");
      sayNotes(gap);
      return Exit.YES;
    }
    secrets = otherSecrets == null ? secretsFor(before, steps) : otherSecrets;
    if (!carryOut(before, steps, true)) {
      return Exit.HALF_WAY;
    }
    Access after = survey();
    surveyed(after);
    out.println("settled " + entry.name() + ": " + summary(steps));
    out.println("people: " + new ChangeText(gap, width()).summary());
    List<Step> left = gap(after, charter, entry).plan().steps();
    if (!left.isEmpty()) {
      err.println("surveyed again, and this is still to do:");
      statements(kind, left).forEach(sql -> err.println("  " + sql));
      return Exit.NO;
    }
    out.println("surveyed again: no gap");
    sayNotes(gap);
    return Exit.YES;
  }

  private String identity() throws ServerException {
    return kind.identity(Surveys.login(entry));
  }

  /** A journal of another server says what is to be undone there, not here. */
  private void belongs(Path file, Journal.Contents journal) throws BadInput, ServerException {
    String identity = identity();
    boolean other =
        !journal.identity().isEmpty()
            && !identity.isEmpty()
            && !identity.equals(journal.identity());
    if (other || !journal.server().equals(entry.name())) {
      throw new BadInput(
          file
              + " is the journal of "
              + (other ? "another server that was called " : "")
              + journal.server()
              + "; move it away if nothing there is to be undone or resumed");
    }
  }

  private static boolean isHalfWay(Journal.Contents contents, Done done) {
    return !contents.finished()
        && !done.undo(contents.steps()).isEmpty()
        && !done.missing(contents.steps()).isEmpty();
  }

  /** Carries out what the journal says is left, or takes back what took effect. */
  private int fromJournal() throws BadInput, ServerException, IOException {
    Path file = journal(folder, entry.name());
    if (!Files.isRegularFile(file)) {
      throw new BadInput("there is no journal of " + entry.name() + ": nothing was settled yet");
    }
    Journal.Contents contents = Journal.read(file);
    belongs(file, contents);
    if (resume && contents.finished()) {
      out.println("nothing to resume: the last settle of " + entry.name() + " came to its end");
      return Exit.YES;
    }
    Access before = survey();
    Done done = new Done(before);
    List<Step> steps = resume ? done.missing(contents.steps()) : done.undo(contents.steps());
    if (dryRun) {
      return shown(steps);
    }
    secrets = otherSecrets == null ? secretsFor(before, steps) : otherSecrets;
    if (!steps.isEmpty() && !carryOut(before, steps, false)) {
      return Exit.HALF_WAY;
    }
    try (Journal journal = Journal.reopen(file, contents)) {
      journal.finished();
    }
    Access after = survey();
    surveyed(after);
    boolean complete =
        resume
            ? new Done(after).missing(contents.steps()).isEmpty()
            : new Done(after).undo(contents.steps()).isEmpty();
    String count = steps.size() == 1 ? "1 step" : steps.size() + " steps";
    out.println(
        resume
            ? "resumed " + entry.name() + ": " + count + " left, done now"
            : "undone on " + entry.name() + ": " + count + " taken back");
    out.println(
        complete
            ? "surveyed again: all of it took effect"
            : "surveyed again: some of it did not take effect; fiador gap shows what");
    return complete ? Exit.YES : Exit.NO;
  }

  /**
   * Runs the steps.
   *
   * @param before the server as it is
   * @param anew whether a journal of its own is begun; what follows an older one changes it not
   * @return false when the server refused one after others had been carried out for good
   */
  private boolean carryOut(Access before, List<Step> steps, boolean anew)
      throws ServerException, IOException {
    Path file = journal(folder, entry.name());
    carriedOut = 0;
    Recorded recorded = recorded(before, steps);
    try (Journal journal =
            anew ? Journal.begin(file, entry.name(), identity(), clock.instant(), steps) : null;
        Progress progress = Progress.of("settling", steps.size(), "steps", this)) {
      run.carryOut(steps, witness(journal, progress));
      if (journal != null) {
        journal.finished();
      }
      recorded.ended();
      return true;
    } catch (ServerException refused) {
      if (kind.dialect().transactional() || carriedOut == 0) {
        throw refused;
      }
      err.println("fiador settle: " + refused.getMessage());
      err.println(
          "  "
              + carriedOut
              + " of "
              + steps.size()
              + " steps are done; fiador settle --resume goes on, --undo takes them back");
      return false;
    } catch (UncheckedIOException full) {
      throw full.getCause();
    }
  }

  private void surveyed(Access access) throws IOException {
    Surveys.write(access, Surveys.file(folder, entry.name()));
    try (Ledger ledger = Ledgers.open(folder, charter)) {
      if (ledger != null) {
        ledger.record(access);
      }
    }
  }

  /** A change that the ledger knows has begun. */
  @FunctionalInterface
  private interface Recorded {
    void ended() throws IOException;
  }

  /** Better not to begin than to change something without a record. */
  private Recorded recorded(Access before, List<Step> steps) throws IOException {
    String what = resume ? "resume" : undo ? "undo" : "settle";
    try (Ledger ledger = Ledgers.open(folder, charter)) {
      if (ledger == null) {
        return () -> {};
      }
      ledger.record(before);
      List<String> statements = statements(kind, steps);
      long id = ledger.changing(entry.name(), what, Ledgers.runner(), clock.instant(), statements);
      return () -> {
        try (Ledger again = Ledgers.open(folder, charter)) {
          again.changed(id, clock.instant());
        }
      };
    }
  }

  private SettleRun.Witness witness(Journal journal, Progress progress) {
    return new SettleRun.Witness() {
      @Override
      public void begins(List<Step> some) {
        note(journal, some, false);
      }

      @Override
      public void waits(String sql) {
        say("somebody holds what is needed, trying again: " + sql);
      }

      @Override
      public void done(List<Step> some, String sql) {
        note(journal, some, true);
        carriedOut += some.size();
        progress.more(some.size());
        if (verbose) {
          err.println(sql);
        }
      }
    };
  }

  private static void note(Journal journal, List<Step> steps, boolean done) {
    try {
      if (journal != null && done) {
        journal.done(steps);
      } else if (journal != null) {
        journal.begins(steps);
      }
    } catch (IOException full) {
      // better to stop than to go on without a record
      throw new UncheckedIOException(full);
    }
  }

  private static String summary(List<Step> steps) {
    Map<String, Integer> counts = new TreeMap<>();
    for (Step step : steps) {
      String what = "changes of accounts";
      if (step instanceof Step.CreateRole) {
        what = "roles created";
      } else if (step instanceof Step.CreateUser) {
        what = "users created";
      } else if (step instanceof Step.DropRole || step instanceof Step.DropUser) {
        what = "users and roles dropped";
      } else if (step instanceof Step.GiveRole || step instanceof Step.DefaultRole) {
        what = "memberships given";
      } else if (step instanceof Step.TakeRole) {
        what = "memberships taken";
      } else if (step instanceof Step.Revoke
          || step instanceof Step.TakeOption
          || step instanceof Step.RevokeLater) {
        what = "grants taken";
      } else if (step instanceof Step.TakeOver) {
        what = "grants and memberships taken over";
      } else if (step instanceof Step.ChangeOwner) {
        what = "owners changed";
      } else if (step instanceof Step.ShowSafely show) {
        boolean closed = show.after() != null && show.after().showsNothing();
        what = closed ? "safe views closed meanwhile" : "safe views settled";
      } else if (step instanceof Step.FilterRows) {
        what = "row filters settled";
      } else if (step instanceof Step.SetAttribute) {
        what = "attributes set";
      } else if (step instanceof Step.Guard || step instanceof Step.DefineLookup) {
        what = "parts of the guarded schema made";
      } else if (!(step instanceof Step.LetLogIn || step instanceof Step.LimitInTime)) {
        what = "grants given";
      }
      counts.merge(what, 1, Integer::sum);
    }
    StringJoiner parts = new StringJoiner(", ");
    counts.forEach(
        (what, count) ->
            parts.add(count + " " + (count == 1 ? what.replaceFirst("s( |$)", "$1") : what)));
    return parts.toString();
  }

  /** All secrets before the first statement, so that none is missed half-way. */
  private static SettleRun.Secrets secretsFor(Access before, List<Step> steps) throws BadInput {
    List<String> fresh = new ArrayList<>();
    for (Step step : steps) {
      if (step instanceof Step.CreateUser user) {
        fresh.add(user.user());
      }
    }
    UserSecrets variables = UserSecrets.of(before, fresh);
    Map<String, char[]> secrets = new HashMap<>();
    List<String> missing = new ArrayList<>();
    Console console = System.console();
    for (Step step : steps) {
      if (step instanceof Step.CreateUser user) {
        String value = variables.of(user.user());
        if (value != null) {
          secrets.put(user.user(), value.toCharArray());
        } else if (console != null) {
          char[] typed = console.readPassword("secret of the new user %s: ", user.user());
          if (typed == null || typed.length == 0) {
            throw new BadInput("no secret for " + user.user() + "; nothing was changed");
          }
          UserSecrets.whole("what was typed", CharBuffer.wrap(typed));
          secrets.put(user.user(), typed);
        } else {
          missing.add(variables.variable(user.user()));
        }
      }
    }
    if (!missing.isEmpty()) {
      throw new BadInput(
          "new users need secrets, and the environment does not have them: "
              + String.join(", ", missing)
              + "; nothing was changed");
    }
    return secrets::get;
  }
}
