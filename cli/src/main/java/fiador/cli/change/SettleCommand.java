package fiador.cli.change;

import fiador.changes.Gap;
import fiador.changes.steps.Step;
import fiador.cli.shell.Change;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.Terminal;
import fiador.files.charter.Charter;
import fiador.files.journal.SavedGap;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.text.ChangeText;
import fiador.report.text.StepSummary;
import fiador.servers.live.SettleRun;
import fiador.work.charters.Charters;
import fiador.work.secrets.NewSecrets;
import fiador.work.settling.Approved;
import fiador.work.settling.Followed;
import fiador.work.settling.Listener;
import fiador.work.settling.SecretSource;
import fiador.work.settling.Settled;
import fiador.work.settling.Settlement;
import fiador.work.settling.Stop;
import fiador.work.settling.Task;
import java.io.Console;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

public final class SettleCommand extends Change {
  boolean dryRun;
  boolean resume;
  boolean undo;
  boolean anew;
  boolean skipGone;
  boolean onlyEnded;
  boolean every;
  Path saved;
  String approvedBy;

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
    options.option(
        "--saved",
        "FILE",
        Path.class,
        value -> saved = value,
        "Settles exactly what fiador gap --save wrote there, or nothing if charter or server have",
        "changed since.");
    options.option(
        "--approved-by",
        "NAME",
        value -> approvedBy = value,
        "With --saved: who approved it; the ledger keeps that.");
    options.flag(
        "--only-ended",
        given -> onlyEnded = given,
        "Only takes what the charter gave for a time that is over; for a timer to run.");
    options.flag(
        "--every-server",
        given -> every = given,
        "All servers of the charter, one after another; one that fails stops only itself.");
    options.flag(
        "--anew",
        given -> anew = given,
        "Lays aside what a settle that was stopped half-way had still to do.");
  }

  /** Where secrets come from when it is not the environment or a terminal; the tour has its own. */
  public SettleRun.Secrets otherSecrets;

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
      "  fiador settle --every-server",
      "  fiador settle --only-ended  what was given until a day that is over, and nothing else",
      "  fiador settle --saved change.json --approved-by lia.prado",
      "  fiador settle --undo        back to what it was before the last settle"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (skipGone && !resume && !undo) {
      throw new BadInput("--skip-gone goes with --resume or --undo");
    }
    if (saved == null != (approvedBy == null)) {
      throw new BadInput("--saved FILE and --approved-by NAME go together");
    } else if (saved != null && (resume || undo)) {
      throw new BadInput("--saved is for a new settle, not for --resume or --undo");
    }
    if (onlyEnded && (drop || saved != null || resume || undo)) {
      throw new BadInput("--only-ended goes with neither --drop, --saved, --resume nor --undo");
    }
    if (every && (server != null || saved != null)) {
      throw new BadInput("--every-server goes with neither a server's name nor --saved");
    }
    Approved approved = saved == null ? null : new Approved(SavedGap.read(saved), approvedBy);
    Charter charter = Charters.read(folder);
    if (every) {
      return new EveryServer(out, err, dryRun)
          .each(charter.servers().keySet(), name -> one(charter, name, null), width());
    }
    return one(charter, server, approved);
  }

  /** One server of the charter; its only one where none is named. */
  private int one(Charter charter, String name, Approved approved) throws Refusal, IOException {
    Task task = new Task(folder, charter, Charters.server(charter, name), drop, onlyEnded, clock);
    Listener listener = new Told(this, task.kind());
    if (dryRun && !resume && !undo) {
      Gap gap = Settlement.planned(task, listener);
      if (approved != null) {
        approved.check(task, gap);
      }
      int code = shown(task, gap.plan().steps());
      sayNotes(gap);
      return code;
    }
    SecretSource secrets =
        otherSecrets == null ? SettleCommand::secrets : (before, steps) -> otherSecrets;
    try (Settlement settlement = new Settlement(task, secrets, listener)) {
      return resume || undo
          ? followed(
              task,
              settlement.follow(
                  resume ? Settlement.Way.RESUME : Settlement.Way.UNDO, skipGone, dryRun))
          : settled(task, settlement.settle(anew, approved));
    }
  }

  private static SettleRun.Secrets secrets(Access before, List<Step> steps) throws BadInput {
    Console console = Terminal.console();
    NewSecrets.Ask ask =
        console == null ? null : user -> console.readPassword("secret of the new user %s: ", user);
    return NewSecrets.of(before, steps, ask);
  }

  private int shown(Task task, List<Step> steps) {
    List<String> statements = task.kind().dialect().shown(steps);
    statements.forEach(sql -> out.println(sql + ";"));
    String count = statements.size() == 1 ? "1 statement" : statements.size() + " statements";
    say(steps.isEmpty() ? "nothing to do" : count + "; nothing was run");
    return steps.isEmpty() ? Exit.YES : Exit.NO;
  }

  private int settled(Task task, Settled settled) {
    String name = task.entry().name();
    return switch (settled.state()) {
      case UNFINISHED -> {
        err.println(
            "fiador settle: the last settle of "
                + name
                + " was stopped half-way, and nothing was changed now\n"
                + "  fiador settle --resume goes on, --undo takes it back, --anew forgets it");
        yield Exit.HALF_WAY;
      }
      case AS_WANTED -> {
        out.println(
            "nothing to do: "
                + (onlyEnded
                    ? "nothing that has ended is left on " + name
                    : name + " is as the charter says"));
        sayNotes(settled.gap());
        yield Exit.YES;
      }
      case STOPPED -> halfWay(settled.stop());
      case DONE -> done(task, settled);
    };
  }

  private int done(Task task, Settled settled) {
    out.println("settled " + task.entry().name() + ": " + StepSummary.of(settled.steps()));
    out.println("people: " + new ChangeText(settled.gap(), width()).summary());
    if (!settled.left().isEmpty()) {
      err.println("surveyed again, and this is still to do:");
      task.kind().dialect().shown(settled.left()).forEach(sql -> err.println("  " + sql));
      return Exit.NO;
    }
    out.println("surveyed again: " + (onlyEnded ? "nothing that has ended is left" : "no gap"));
    sayNotes(settled.gap());
    return Exit.YES;
  }

  private int followed(Task task, Followed followed) {
    String name = task.entry().name();
    return switch (followed.state()) {
      case NOTHING_LEFT -> {
        out.println("nothing to resume: the last settle of " + name + " came to its end");
        yield Exit.YES;
      }
      case WAS_REFUSED -> {
        out.println(
            "nothing to "
                + (resume ? "resume" : "undo")
                + ": the last settle of "
                + name
                + " was refused, and nothing was changed");
        yield Exit.YES;
      }
      case GONE -> {
        boolean one = followed.gone() == 1;
        err.println(
            "fiador settle: "
                + (one ? "a step is" : followed.gone() + " steps are")
                + " about what was dropped since, and nothing was changed now\n"
                + "  --skip-gone leaves "
                + (one ? "it" : "them")
                + " out");
        yield Exit.HALF_WAY;
      }
      case PLANNED -> shown(task, followed.steps());
      case STOPPED -> halfWay(followed.stop());
      case DONE -> done(name, followed);
    };
  }

  private int done(String name, Followed followed) {
    int steps = followed.steps().size();
    String count = steps == 1 ? "1 step" : steps + " steps";
    out.println(
        resume
            ? "resumed " + name + ": " + count + " left, done now"
            : "undone on " + name + ": " + count + " taken back");
    out.println(
        followed.complete()
            ? "surveyed again: all of it took effect"
            : "surveyed again: some of it did not take effect; fiador gap shows what");
    return followed.complete() ? Exit.YES : Exit.NO;
  }

  private int halfWay(Stop stop) {
    err.println("fiador settle: " + stop.why());
    err.println(
        "  "
            + stop.done()
            + " of "
            + stop.all()
            + " steps are done"
            + (stop.known() ? "" : ", or more")
            + "; fiador settle --resume goes on, --undo takes them back");
    return Exit.HALF_WAY;
  }
}
