package fiador.cli.shell;

import fiador.report.shown.Tone;
import java.io.Console;

/** Somebody who sits at a terminal, types secrets, and sees what nothing else may keep. */
public interface Typist {
  /** What they type, which does not show; null where they typed nothing. */
  char[] secret(String prompt);

  /** Shows a secret once. */
  void show(String user, char[] secret);

  /** Whoever sits there; null where nobody does. */
  static Typist atTerminal() {
    Console console = Terminal.console();
    return console == null ? null : new AtConsole(console);
  }

  /** At the console of the process, which is no stream that somebody may have sent elsewhere. */
  record AtConsole(Console console) implements Typist {
    @Override
    public char[] secret(String prompt) {
      return console.readPassword("%s", Tone.visible(prompt));
    }

    @Override
    public void show(String user, char[] secret) {
      console.writer().print(Tone.visible(user) + "   ");
      console.writer().println(secret);
      console.writer().flush();
    }
  }
}
