package fiador.cli.change;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.steps.Ability;
import fiador.changes.steps.Gone;
import fiador.changes.steps.Step;
import fiador.cli.shell.BadInput;
import fiador.cli.shell.Change;
import fiador.cli.shell.Charters;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Ledgers;
import fiador.cli.shell.Options;
import fiador.cli.shell.Surveys;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.journal.Journal;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.report.text.ChangeText;
import fiador.report.text.StepSummary;
import fiador.servers.jdbc.OutcomeUnknownException;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

public final class SettleCommand extends Change {
  boolean dryRun;
  boolean resume;
  boolean undo;
  boolean anew;
  boolean skipGone;

  @Override
  public void options(Options options) {
    super.options(options);
    options.flag("--dry-run", given -> dryRun = given, "Shows the SQL and runs nothing.");
    options.flag(
        "--resume",
        given -> resume = given,
        "Goes on with the last settle, which was stopped half-way.");
    options.flag("--undo", given -> undo = given, "Takes back what the last settle did.");
    options.flag(
        "--skip-gone",
        given -> skipGone = given,
        "With --resume or --undo: leaves out what is about things that somebody dropped since.");
    options.flag(
        "--anew",
        given -> anew = given,
        "Lays aside what a settle that was stopped half-way had still to do.");
  }

  /** Where secrets come from when it is not the environment or a terminal; the tour has its own. */
  public SettleRun.Secrets otherSecrets;

  private Charter charter;
  private Charter.ServerEntry entry;
  private Server kind;
  private SettleRun run;
  private SettleRun.Secrets secrets = user -> new char[0];

  @Override
  public String[] description() {
    return new String[] {
      "Makes a server what the charter says: creates, gives, changes owners, then takes what the charter",
      "governs and does not list. Surveys again afterwards. Running it again does nothing."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Every step is written into a journal beside the survey before it is carried out. After a stop",
      "half-way --resume goes on, and --undo takes back whatever took effect; --anew forgets it and",
      "settles from what the server is now.",
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
  public int run() throws BadInput, CharterException, ServerException, IOException {
    if (skipGone && !resume && !undo) {
      throw new BadInput("--skip-gone goes with --resume or --undo");
    }
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
    if (!anew && Files.isRegularFile(journal)) {
      Journal.Contents last = Journal.read(journal);
      belongs(journal, last);
      if (isHalfWay(last, new Done(before))) {
        err.println(
            "fiador settle: the last settle of "
                + entry.name()
                + " was stopped half-way, and nothing was changed now\n"
                + "  fiador settle --resume goes on, --undo takes it back, --anew forgets it");
        return Exit.HALF_WAY;
      }
    }
    Gap gap = gap(before, charter, entry);
    List<Step> steps = gap.plan().steps();
    if (steps.isEmpty()) {
      surveyed(before);
      out.println("nothing to do: " + entry.name() + " is as the charter says");
      sayNotes(gap);
      return Exit.YES;
    }
    able(gap.before(), steps);
    secrets = otherSecrets == null ? NewSecrets.of(before, steps) : otherSecrets;
    if (!carryOut(before, steps, true)) {
      return Exit.HALF_WAY;
    }
    Access after = survey();
    surveyed(after);
    out.println("settled " + entry.name() + ": " + StepSummary.of(steps));
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

  /** What the login lacks is said all at once, before anything is changed. */
  private void able(Access before, List<Step> steps) throws ServerException {
    Map<String, Integer> lacking = Ability.lacking(before, entry.login(), steps, clock);
    if (!lacking.isEmpty()) {
      throw new ServerException(
          "the login "
              + entry.login()
              + " may not do all of it, and nothing was changed; it lacks\n  "
              + String.join("\n  ", Ability.inWords(lacking)),
          null);
    }
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
        && !contents.refused()
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
    if (contents.refused()) {
      out.println(
          "nothing to "
              + (resume ? "resume" : "undo")
              + ": the last settle of "
              + entry.name()
              + " was refused, and nothing was changed");
      return Exit.YES;
    }
    Access before = survey();
    Done done = new Done(before);
    List<Step> steps = resume ? done.missing(contents.steps()) : done.undo(contents.steps());
    Map<Step, String> gone = Gone.among(steps, before);
    gone.forEach((step, why) -> err.println(why + ": " + kind.dialect().sql(step)));
    if (!gone.isEmpty() && !skipGone) {
      err.println(
          "fiador settle: "
              + (gone.size() == 1 ? "a step is" : gone.size() + " steps are")
              + " about what was dropped since, and nothing was changed now\n"
              + "  --skip-gone leaves "
              + (gone.size() == 1 ? "it" : "them")
              + " out");
      return Exit.HALF_WAY;
    }
    List<Step> skipped = List.copyOf(gone.keySet());
    steps = steps.stream().filter(step -> !skipped.contains(step)).toList();
    if (dryRun) {
      return shown(steps);
    }
    able(before, steps);
    secrets = otherSecrets == null ? NewSecrets.of(before, steps) : otherSecrets;
    if (!steps.isEmpty() && !carryOut(before, steps, false)) {
      return Exit.HALF_WAY;
    }
    try (Journal journal = Journal.reopen(file, contents)) {
      journal.finished();
    }
    Access after = survey();
    surveyed(after);
    List<Step> left =
        new ArrayList<>(
            resume
                ? new Done(after).missing(contents.steps())
                : new Done(after).undo(contents.steps()));
    left.removeAll(skipped);
    boolean complete = left.isEmpty();
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
   * @param fresh whether a journal of its own is begun; what follows an older one changes it not
   * @return false when the server refused one after others had been carried out for good
   */
  private boolean carryOut(Access before, List<Step> steps, boolean fresh)
      throws ServerException, IOException {
    Path file = journal(folder, entry.name());
    String what = resume ? "resume" : undo ? "undo" : "settle";
    try (Recorder recorder = new Recorder(folder, charter, steps.size(), this)) {
      recorder.begins(before, entry.name(), what, statements(kind, steps));
      if (fresh) {
        recorder.into(Journal.begin(file, entry.name(), identity(), clock.instant(), steps));
      }
      try {
        run.carryOut(steps, recorder);
      } catch (ServerException refused) {
        return halfWay(refused, recorder, steps.size());
      }
      recorder.finished();
      return true;
    } catch (UncheckedIOException full) {
      throw full.getCause();
    }
  }

  private boolean halfWay(ServerException refused, Recorder recorder, int steps)
      throws ServerException, IOException {
    boolean known = !(refused instanceof OutcomeUnknownException);
    if (known && recorder.lasting() == 0) {
      recorder.refused();
      throw refused;
    }
    err.println("fiador settle: " + refused.getMessage());
    err.println(
        "  "
            + recorder.lasting()
            + " of "
            + steps
            + " steps are done"
            + (known ? "" : ", or more")
            + "; fiador settle --resume goes on, --undo takes them back");
    return false;
  }

  private void surveyed(Access access) throws IOException {
    Surveys.write(access, Surveys.file(folder, entry.name()));
    try (Ledger ledger = Ledgers.open(folder, charter)) {
      if (ledger != null) {
        ledger.record(access);
      }
    }
  }
}
