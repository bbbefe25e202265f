package fiador.cli.shell;

import fiador.changes.Gap;
import fiador.report.shown.Tone;
import java.io.PrintStream;
import org.jspecify.annotations.Nullable;

/**
 * Where a part of a command says what it has to say.
 *
 * @param out for answers
 * @param err for errors, and for what is said on the way
 * @param terminal shows how far it has come; null where nobody is to see that
 * @param width how wide a line may be
 */
public record Spoken(
    PrintStream out,
    PrintStream err,
    @Nullable PrintStream terminal,
    boolean quiet,
    boolean verbose,
    int width) {
  /** As the command itself. */
  public static Spoken by(Common command) {
    return new Spoken(
        command.out,
        command.err,
        command.terminal,
        command.quiet,
        command.verbose,
        command.width());
  }

  /** The same, kept for later. */
  public Spoken into(PrintStream keptOut, PrintStream keptErr) {
    return new Spoken(keptOut, keptErr, null, quiet, verbose, width);
  }

  /** Says something on the way, unless told to be quiet. */
  public void say(String message) {
    if (!quiet) {
      err.println(Tone.visible(message));
    }
  }

  /** Says what the reader of an answer has to know of what it was made from. */
  public void note(String note) {
    say("note: " + note);
  }

  /** What was left out, behind the answer. */
  public void notes(Gap gap) {
    out.flush();
    gap.plan().notes().forEach(this::note);
  }
}
