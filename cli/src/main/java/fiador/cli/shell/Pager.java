package fiador.cli.shell;

import java.io.ByteArrayOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;

/**
 * Holds an answer back until it is longer than the terminal, and then gives it to the program that
 * the variable PAGER names. Whoever leaves that program early has seen all they wanted.
 */
public final class Pager extends FilterOutputStream {
  private final String program;
  private final ByteArrayOutputStream held = new ByteArrayOutputStream();
  private int room;
  private Process process;
  private OutputStream into;

  /**
   * One that lets everything through until it is told to {@link #begin}.
   *
   * @param program what PAGER says; null or empty for none
   */
  public Pager(OutputStream to, String program) {
    super(to);
    this.program = program;
  }

  /** From now on an answer of more lines than that goes to the program. */
  public void begin(int lines) {
    room = program == null || program.isBlank() ? 0 : Math.max(0, lines - 1);
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    if (process != null) {
      give(bytes, from, length);
    } else if (room == 0) {
      out.write(bytes, from, length);
    } else {
      held.write(bytes, from, length);
      for (int i = from; i < from + length && room > 0; i++) {
        room -= bytes[i] == '\n' ? 1 : 0;
      }
      if (room == 0) {
        start();
      }
    }
  }

  private void start() throws IOException {
    byte[] all = held.toByteArray();
    held.reset();
    ProcessBuilder pager = new ProcessBuilder("sh", "-c", program);
    pager.redirectOutput(ProcessBuilder.Redirect.INHERIT);
    pager.redirectError(ProcessBuilder.Redirect.INHERIT);
    // the common one shows colours only when it is told to
    pager.environment().putIfAbsent("LESS", "-R");
    try {
      process = pager.start();
      into = process.getOutputStream();
      give(all, 0, all.length);
    } catch (IOException none) {
      out.write(all);
    }
  }

  private void give(byte[] bytes, int from, int length) {
    try {
      into.write(bytes, from, length);
    } catch (IOException left) {
      // they left it
    }
  }

  @Override
  public void flush() throws IOException {
    if (process == null && room == 0) {
      out.flush();
    }
  }

  /** Shows what was held back, or waits until the program is left. */
  public void end() throws IOException {
    if (process == null) {
      out.write(held.toByteArray());
      held.reset();
      room = 0;
      out.flush();
      return;
    }
    try {
      into.close();
    } catch (IOException left) {
      // they left it
    }
    try {
      process.waitFor();
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
    }
  }
}
