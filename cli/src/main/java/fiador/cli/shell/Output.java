package fiador.cli.shell;

import fiador.report.shown.Palette;
import fiador.report.shown.ToneStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;

/**
 * Where answers go. A print stream forgets what went wrong; this remembers it for the exit code.
 */
public final class Output extends FilterOutputStream {
  private static final Path STDOUT = Path.of("/proc/self/fd/1");

  private IOException failure;

  public Output(OutputStream to) {
    super(to);
  }

  /**
   * A stream of text and formats on which nothing can be written that cannot be seen.
   *
   * @param palette what tones look like there
   * @param links whether it is a terminal that knows links
   */
  public static PrintStream visible(
      OutputStream to, Palette palette, boolean links, boolean autoFlush) {
    return new PrintStream(new ToneStream(to, palette, links), autoFlush, StandardCharsets.UTF_8);
  }

  @Override
  public void write(int b) throws IOException {
    try {
      out.write(b);
    } catch (IOException broken) {
      throw remembered(broken);
    }
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    try {
      out.write(bytes, from, length);
    } catch (IOException broken) {
      throw remembered(broken);
    }
  }

  @Override
  public void flush() throws IOException {
    try {
      out.flush();
    } catch (IOException broken) {
      throw remembered(broken);
    }
  }

  private IOException remembered(IOException broken) {
    failure = failure == null ? broken : failure;
    return broken;
  }

  /**
   * Why not all of the answer was written; null when it was. A reader that has gone away ({@code
   * fiador ... | head}) has all it wanted.
   */
  public String failure() {
    return failure == null || readerIsGone() ? null : failure.getMessage();
  }

  private boolean readerIsGone() {
    try {
      String to = Files.readSymbolicLink(STDOUT).toString();
      return to.startsWith("pipe:") || to.startsWith("socket:");
    } catch (IOException | UnsupportedOperationException elsewhere) {
      String why = String.valueOf(failure.getMessage()).toLowerCase(Locale.ROOT);
      return why.contains("pipe") || why.contains("closed");
    }
  }
}
