package fiador.cli.shell;

import java.io.PrintStream;
import me.tongfei.progressbar.ConsoleProgressBarConsumer;
import me.tongfei.progressbar.ProgressBar;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarStyle;

/** How far something long has come; shown on a terminal only, and gone when it is over. */
public interface Progress extends AutoCloseable {
  /** Some more is done. */
  void more(long count);

  @Override
  public void close();

  /**
   * Begins.
   *
   * @param all how much there is to do; -1 where nobody knows
   */
  static Progress of(String what, long all, String unit, Common command) {
    return of(what, all, unit, Spoken.by(command));
  }

  /** The same of a part of a command. */
  static Progress of(String what, long all, String unit, Spoken spoken) {
    PrintStream terminal = spoken.terminal();
    // both ends of a console are a terminal, and what goes on does not get into a file
    return terminal == null || spoken.quiet() || Terminal.console() == null
        ? silent()
        : shown(what, all, unit, terminal);
  }

  private static Progress silent() {
    return new Progress() {
      @Override
      public void more(long count) {}

      @Override
      public void close() {}
    };
  }

  /** Shows it whatever stands at the other end. */
  static Progress shown(String what, long all, String unit, PrintStream err) {
    ProgressBar bar =
        new ProgressBarBuilder()
            .setTaskName(what)
            .setInitialMax(all)
            .setUnit(" " + unit, 1)
            .setStyle(ProgressBarStyle.ASCII)
            .setUpdateIntervalMillis(200)
            .setConsumer(new ConsoleProgressBarConsumer(err, 79))
            .clearDisplayOnFinish()
            .build();
    return new Progress() {
      @Override
      public void more(long count) {
        bar.stepBy(count);
      }

      @Override
      public void close() {
        bar.close();
      }
    };
  }
}
