package fiador.work.settling;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.steps.Ability;
import fiador.changes.steps.Gone;
import fiador.changes.steps.Step;
import fiador.files.journal.Journal;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.servers.jdbc.OutcomeUnknownException;
import fiador.servers.jdbc.ServerException;
import fiador.servers.live.SettleRun;
import fiador.work.charters.Ledgers;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Makes one server what its charter says, goes on where that was stopped, or takes it back. Every
 * step stands in a journal before it is sent. Others are kept from settling there until it is
 * closed, as far as the server has a way to.
 */
public final class Settlement implements AutoCloseable {
  private final Task task;
  private final SecretSource source;
  private final Listener listener;
  private final SettleRun run;
  private final SettleRun.Lock lock;
  private SettleRun.Secrets secrets = user -> new char[0];

  /** What follows an older run. */
  public enum Way {
    /** Carries out what is left of it. */
    RESUME,
    /** Takes back what took effect. */
    UNDO
  }

  /**
   * Locks the server.
   *
   * @throws ServerException when it cannot be reached, or somebody else is settling there
   */
  public Settlement(Task task, SecretSource source, Listener listener) throws ServerException {
    this.task = task;
    this.source = source;
    this.listener = listener;
    this.run = new SettleRun(task.kind(), Surveys.login(task.entry()), user -> secrets.of(user));
    this.lock = run.lock();
  }

  /** What would be done, without locking or changing anything. */
  public static Gap planned(Task task, Listener listener) throws Refusal {
    return task.gap(survey(task, listener));
  }

  private static Access survey(Task task, Listener listener) throws ServerException {
    return Surveys.live(
        task.charter(), task.entry(), List.of(), task.clock().instant(), listener::note);
  }

  /**
   * Makes the server what the charter says, and surveys it again.
   *
   * @param anew whether what a run that was stopped half-way had still to do is laid aside
   * @throws Refusal when the charter or the server does not allow it; then nothing was changed
   */
  public Settled settle(boolean anew) throws Refusal, IOException {
    return settle(anew, null);
  }

  /**
   * As the other, of an approved gap alone.
   *
   * @param approved what has to be carried out exactly; null for whatever the gap is now
   */
  public Settled settle(boolean anew, @Nullable Approved approved) throws Refusal, IOException {
    Access before = survey(task, listener);
    if (!anew && isHalfWay(before)) {
      return Settled.of(Settled.State.UNFINISHED, null);
    }
    Gap gap = task.gap(before);
    if (approved != null) {
      approved.check(task, gap);
    }
    List<Step> steps = new ArrayList<>(gap.plan().steps());
    List<Step> lifts = anew ? leftDenied(before, steps) : List.of();
    if (approved == null) {
      steps.addAll(lifts);
    }
    if (!lifts.isEmpty()) {
      listener.note(LaidAside.inWords(lifts.size(), approved == null));
    }
    if (steps.isEmpty()) {
      surveyed(before);
      return Settled.of(Settled.State.AS_WANTED, gap);
    }
    prepare(gap.before(), before, steps);
    Stop stop = carryOut(before, steps, inWords(approved), true);
    if (stop != null) {
      return new Settled(Settled.State.STOPPED, gap, steps, List.of(), stop);
    }
    Access after = survey(task, listener);
    surveyed(after);
    List<Step> left = task.gap(after).plan().steps();
    return new Settled(Settled.State.DONE, gap, steps, left, null);
  }

  /**
   * Follows the last run by its journal, and surveys the server again.
   *
   * @param skipGone whether steps about what was dropped since are left out
   * @param look whether it is only looked at
   * @throws Refusal when there is no such run, or the server does not allow it
   */
  public Followed follow(Way way, boolean skipGone, boolean look) throws Refusal, IOException {
    Path file = task.journal();
    if (!Files.isRegularFile(file)) {
      throw new BadInput(
          "there is no journal of " + task.entry().name() + ": nothing was settled yet");
    }
    Journal.Contents contents = Journal.read(file);
    belongs(file, contents);
    if (way == Way.RESUME && contents.finished()) {
      return Followed.of(Followed.State.NOTHING_LEFT);
    } else if (contents.refused()) {
      return Followed.of(Followed.State.WAS_REFUSED);
    }
    Access before = survey(task, listener);
    List<Step> steps = new ArrayList<>(open(way, before, contents));
    Map<Step, String> gone = Gone.among(steps, before);
    gone.forEach(listener::isGone);
    if (!gone.isEmpty() && !skipGone) {
      return new Followed(Followed.State.GONE, steps, gone.size(), false, null);
    }
    List<Step> skipped = List.copyOf(gone.keySet());
    steps.removeAll(skipped);
    if (look) {
      return new Followed(Followed.State.PLANNED, steps, gone.size(), false, null);
    }
    prepare(before, before, steps);
    String what = way == Way.RESUME ? "resume" : "undo";
    Stop stop = steps.isEmpty() ? null : carryOut(before, steps, what, false);
    if (stop != null) {
      return new Followed(Followed.State.STOPPED, steps, gone.size(), false, stop);
    }
    try (Journal journal = Journal.reopen(file, contents)) {
      journal.finished();
    }
    Access after = survey(task, listener);
    surveyed(after);
    List<Step> left = new ArrayList<>(open(way, after, contents));
    left.removeAll(skipped);
    return new Followed(Followed.State.DONE, steps, gone.size(), left.isEmpty(), null);
  }

  /** What lifts the denials that a run that is laid aside had made for a moment, and left. */
  private List<Step> leftDenied(Access now, List<Step> steps) throws ServerException {
    Path file = task.journal();
    if (!Files.isRegularFile(file)) {
      return List.of();
    }
    try {
      Journal.Contents last = Journal.read(file);
      return isOurs(last) ? LaidAside.lifts(last, now, steps) : List.of();
    } catch (IOException unreadable) {
      listener.note(
          "what the last run may have denied for a moment is not known: "
              + unreadable.getMessage());
      return List.of();
    }
  }

  private String inWords(@Nullable Approved approved) {
    String plain = task.onlyEnded() ? "settle --only-ended" : "settle";
    return approved == null ? plain : approved.inWords();
  }

  /** What is left of an older run, or took effect of it. */
  private static List<Step> open(Way way, Access access, Journal.Contents contents) {
    Done done = new Done(access);
    return way == Way.RESUME ? done.missing(contents.steps()) : done.undo(contents.steps());
  }

  /** Whether the last run was stopped with some steps done and some not. */
  private boolean isHalfWay(Access now) throws Refusal, IOException {
    Path file = task.journal();
    if (!Files.isRegularFile(file)) {
      return false;
    }
    Journal.Contents last = Journal.read(file);
    belongs(file, last);
    return !last.finished()
        && !last.refused()
        && !open(Way.UNDO, now, last).isEmpty()
        && !open(Way.RESUME, now, last).isEmpty();
  }

  /**
   * What the login lacks is said all at once, and all secrets are there, before anything changes.
   */
  private void prepare(Access able, Access before, List<Step> steps) throws Refusal {
    String login = task.entry().login();
    Map<String, Integer> lacking = Ability.lacking(able, login, steps, task.clock());
    if (!lacking.isEmpty()) {
      throw new ServerException(
          "the login "
              + login
              + " may not do all of it, and nothing was changed; it lacks\n  "
              + String.join("\n  ", Ability.inWords(lacking)),
          null);
    }
    secrets = source.of(before, steps);
  }

  private String identity() throws ServerException {
    return task.kind().identity(Surveys.login(task.entry()));
  }

  /** A journal of another server says what is to be undone there, not here. */
  private void belongs(Path file, Journal.Contents journal) throws Refusal {
    if (!isOurs(journal)) {
      boolean sameName = journal.server().equals(task.entry().name());
      throw new BadInput(
          file
              + " is the journal of "
              + (sameName ? "another server that was called " : "")
              + journal.server()
              + "; move it away if nothing there is to be undone or resumed");
    }
  }

  private boolean isOurs(Journal.Contents journal) throws ServerException {
    String identity = identity();
    boolean known = !journal.identity().isEmpty() && !identity.isEmpty();
    boolean other = known && !identity.equals(journal.identity());
    return !other && journal.server().equals(task.entry().name());
  }

  /**
   * Runs the steps.
   *
   * @param before the server as it is
   * @param fresh whether a journal of its own is begun; what follows an older one changes it not
   * @return null when all were carried out
   * @throws ServerException when the server refused one and nothing lasts
   */
  private @Nullable Stop carryOut(Access before, List<Step> steps, String what, boolean fresh)
      throws ServerException, IOException {
    try (Recorder recorder = new Recorder(task, listener)) {
      recorder.begins(before, what, steps);
      if (fresh) {
        Path file = task.journal();
        String server = task.entry().name();
        recorder.into(Journal.begin(file, server, identity(), task.clock().instant(), steps));
      }
      try {
        run.carryOut(steps, recorder);
      } catch (ServerException refused) {
        boolean known = !(refused instanceof OutcomeUnknownException);
        if (known && recorder.lasting() == 0) {
          recorder.refused();
          throw refused;
        }
        return new Stop(
            String.valueOf(refused.getMessage()), recorder.lasting(), steps.size(), known);
      }
      recorder.finished();
      return null;
    } catch (UncheckedIOException full) {
      throw full.getCause();
    }
  }

  private void surveyed(Access access) throws IOException {
    Surveys.write(access, Surveys.file(task.folder(), task.entry().name()));
    try (Ledger ledger = Ledgers.open(task.folder(), task.charter())) {
      if (ledger != null) {
        ledger.record(access);
      }
    }
  }

  @Override
  public void close() {
    lock.close();
  }
}
