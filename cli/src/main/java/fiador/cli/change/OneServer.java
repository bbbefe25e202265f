package fiador.cli.change;

import fiador.changes.Gap;
import fiador.changes.steps.Step;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Spoken;
import fiador.refusal.Refusal;
import fiador.report.text.ChangeText;
import fiador.report.text.StepSummary;
import fiador.work.settling.Approved;
import fiador.work.settling.Followed;
import fiador.work.settling.Listener;
import fiador.work.settling.SecretSource;
import fiador.work.settling.Settled;
import fiador.work.settling.Settlement;
import fiador.work.settling.Stop;
import fiador.work.settling.Task;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Settles one server of a charter, and says what came of it. */
final class OneServer {
  private final Order order;
  private final SecretSource secrets;
  private final Spoken spoken;

  /**
   * What is to be done, and how.
   *
   * @param dryRun whether it is only shown
   * @param resume whether what is left of the last settle is carried out
   * @param undo whether the last settle is taken back
   * @param anew whether what is left of the last settle is laid aside
   * @param skipGone whether steps about what was dropped since are left out
   */
  record Order(boolean dryRun, boolean resume, boolean undo, boolean anew, boolean skipGone) {
    /** Whether it follows the last settle's journal. */
    boolean follows() {
      return resume || undo;
    }
  }

  OneServer(Order order, SecretSource secrets, Spoken spoken) {
    this.order = order;
    this.secrets = secrets;
    this.spoken = spoken;
  }

  /**
   * Does it.
   *
   * @param approved what was approved; null where nothing had to be
   */
  int settle(Task task, @Nullable Approved approved) throws Refusal, IOException {
    Listener listener = new Told(spoken, task.kind());
    if (order.dryRun() && !order.follows()) {
      Gap gap = Settlement.planned(task, listener);
      if (approved != null) {
        approved.check(task, gap);
      }
      int code = shown(task, gap.plan().steps());
      spoken.notes(gap);
      return code;
    }
    try (Settlement settlement = new Settlement(task, secrets, listener)) {
      return order.follows()
          ? followed(
              task,
              settlement.follow(
                  order.resume() ? Settlement.Way.RESUME : Settlement.Way.UNDO,
                  order.skipGone(),
                  order.dryRun()))
          : settled(task, settlement.settle(order.anew(), approved));
    }
  }

  private int shown(Task task, List<Step> steps) {
    List<String> statements = task.kind().dialect().shown(steps);
    statements.forEach(sql -> spoken.out().println(sql + ";"));
    String count = statements.size() == 1 ? "1 statement" : statements.size() + " statements";
    spoken.say(steps.isEmpty() ? "nothing to do" : count + "; nothing was run");
    return steps.isEmpty() ? Exit.YES : Exit.NO;
  }

  private int settled(Task task, Settled settled) {
    String name = task.entry().name();
    return switch (settled.state()) {
      case UNFINISHED -> {
        spoken
            .err()
            .println(
                "fiador settle: the last settle of "
                    + name
                    + " was stopped half-way, and nothing was changed now\n"
                    + "  fiador settle --resume goes on, --undo takes it back, --anew forgets it");
        yield Exit.HALF_WAY;
      }
      case AS_WANTED -> {
        spoken
            .out()
            .println(
                "nothing to do: "
                    + (task.onlyEnded()
                        ? "nothing that has ended is left on " + name
                        : name + " is as the charter says"));
        spoken.notes(settled.gap());
        yield Exit.YES;
      }
      case STOPPED -> halfWay(settled.stop());
      case DONE -> done(task, settled);
    };
  }

  private int done(Task task, Settled settled) {
    spoken.out().println("settled " + task.entry().name() + ": " + StepSummary.of(settled.steps()));
    spoken.out().println("people: " + new ChangeText(settled.gap(), spoken.width()).summary());
    if (!settled.left().isEmpty()) {
      spoken.err().println("surveyed again, and this is still to do:");
      task.kind().dialect().shown(settled.left()).forEach(sql -> spoken.err().println("  " + sql));
      return Exit.NO;
    }
    spoken
        .out()
        .println(
            "surveyed again: " + (task.onlyEnded() ? "nothing that has ended is left" : "no gap"));
    spoken.notes(settled.gap());
    return Exit.YES;
  }

  private int followed(Task task, Followed followed) {
    String name = task.entry().name();
    return switch (followed.state()) {
      case NOTHING_LEFT -> {
        spoken.out().println("nothing to resume: the last settle of " + name + " came to its end");
        yield Exit.YES;
      }
      case WAS_REFUSED -> {
        spoken
            .out()
            .println(
                "nothing to "
                    + (order.resume() ? "resume" : "undo")
                    + ": the last settle of "
                    + name
                    + " was refused, and nothing was changed");
        yield Exit.YES;
      }
      case GONE -> {
        boolean one = followed.gone() == 1;
        spoken
            .err()
            .println(
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
    spoken
        .out()
        .println(
            order.resume()
                ? "resumed " + name + ": " + count + " left, done now"
                : "undone on " + name + ": " + count + " taken back");
    spoken
        .out()
        .println(
            followed.complete()
                ? "surveyed again: all of it took effect"
                : "surveyed again: some of it did not take effect; fiador gap shows what");
    return followed.complete() ? Exit.YES : Exit.NO;
  }

  private int halfWay(Stop stop) {
    spoken.err().println("fiador settle: " + stop.why());
    spoken
        .err()
        .println(
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
