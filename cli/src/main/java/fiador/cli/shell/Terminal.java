package fiador.cli.shell;

import java.io.Console;

/** Whoever sits there, if anybody does. */
public final class Terminal {
  private Terminal() {}

  /**
   * A console both ends of which are a terminal; null where there is none. Newer Java gives a
   * console also to a program that runs in a pipe, and tells these apart by a method of its own.
   */
  @SuppressWarnings("SystemConsoleNull")
  public static Console console() {
    Console console = System.console();
    if (console == null) {
      return null;
    }
    try {
      boolean terminal = (boolean) Console.class.getMethod("isTerminal").invoke(console);
      return terminal ? console : null;
    } catch (ReflectiveOperationException older) {
      return console;
    }
  }
}
