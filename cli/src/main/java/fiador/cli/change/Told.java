package fiador.cli.change;

import fiador.changes.steps.Step;
import fiador.cli.shell.Progress;
import fiador.cli.shell.Spoken;
import fiador.servers.kind.Server;
import fiador.work.settling.Listener;
import java.util.List;

/** Shows whoever waits how far a settlement has come. */
final class Told implements Listener {
  private final Spoken command;
  private final Server kind;
  private Progress progress;

  Told(Spoken command, Server kind) {
    this.command = command;
    this.kind = kind;
  }

  @Override
  public void note(String note) {
    command.note(note);
  }

  @Override
  public void isGone(Step step, String why) {
    command.err().println(why + ": " + kind.dialect().sql(step));
  }

  @Override
  public void begins(int steps) {
    progress = Progress.of("settling", steps, "steps", command);
  }

  @Override
  public void done(List<Step> some, String sql) {
    progress.more(some.size());
    if (command.verbose()) {
      command.err().println(sql);
    }
  }

  @Override
  public void waits(String sql) {
    command.say("somebody holds what is needed, trying again: " + sql);
  }

  @Override
  public void ends() {
    progress.close();
  }
}
