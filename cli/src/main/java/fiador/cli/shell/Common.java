package fiador.cli.shell;

import fiador.files.ready.ReadySurveys;
import fiador.refusal.Refusal;
import fiador.report.shown.Tone;
import java.io.IOException;
import java.io.PrintStream;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;

/**
 * What all commands share. What they say of themselves are methods and no annotation, because
 * reading an annotation takes a short answer longer than finding it.
 */
public abstract class Common {
  public PrintStream out;
  public PrintStream err;

  /** Standard error as it is, for what moves a terminal's cursor on purpose. */
  public PrintStream terminal;

  /** The terminal that answers go to. */
  public Screen screen = Screen.NONE;

  public Clock clock = Clock.systemUTC();

  /** What is left to do once the answer is given. */
  public final List<Runnable> afterwards = new ArrayList<>();

  protected boolean help;
  public boolean quiet;
  public boolean verbose;
  public Integer widthOption;

  /** Opens survey files. */
  protected final ReadySurveys surveys() {
    return new ReadySurveys(this::note, afterwards::add);
  }

  /** Says what the command takes. */
  public void options(Options options) {
    options.help(given -> help = given, "Shows this help.");
    options.flag('q', "--quiet", given -> quiet = given, "Says nothing but the answer and errors.");
    options.flag(
        'v', "--verbose", given -> verbose = given, "Shows more when something goes wrong.");
    options.option(
        "--width",
        "N",
        Integer.class,
        value -> widthOption = value,
        "How wide a line of text may be; else COLUMNS, else the terminal's width, else 100.");
  }

  /** Told what stands behind its name on the command line, as it was written. */
  public void given(List<String> arguments) {}

  /** Whether a long answer may go through a pager. */
  public boolean isPaged() {
    return false;
  }

  /** What the command does, for its help. */
  public abstract String[] description();

  /** What else its help says: examples. */
  public String[] footer() {
    return new String[0];
  }

  /** Does the work; gives the exit code. */
  public abstract int run() throws Refusal, IOException;

  public int width() {
    if (widthOption != null) {
      return Math.max(40, widthOption);
    }
    String columns = System.getenv("COLUMNS");
    if (columns != null && columns.matches("\\d{2,4}")) {
      return Math.max(40, Integer.parseInt(columns));
    }
    return screen.columns() == 0 ? 100 : Math.max(40, screen.columns());
  }

  /** Says what the reader of an answer has to know of what it was made from. */
  public void note(String note) {
    say("note: " + note);
  }

  /** Says something on the way, unless told to be quiet. */
  public void say(String message) {
    if (!quiet) {
      err.println(Tone.visible(message));
    }
  }
}
