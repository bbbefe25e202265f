package fiador.report.shown;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Turns the marks of {@link Tone} and {@link FileLink} into a terminal's colours and links, or
 * takes them away. All else goes through {@link VisibleStream}.
 */
public final class ToneStream extends FilterOutputStream {
  private static final byte[] BEGIN = Tone.BEGIN.getBytes(StandardCharsets.UTF_8);

  /** Bytes of the code behind the mark. */
  private static final int CODE = 3;

  private final OutputStream terminal;
  private final VisibleStream visible;
  private final Palette palette;
  private final boolean links;
  private final byte[] mark = new byte[BEGIN.length + CODE];
  private int matched;

  /**
   * Writes to that stream.
   *
   * @param palette the colours; {@link Palette#NONE} for none
   */
  public ToneStream(OutputStream to, Palette palette) {
    this(to, palette, false);
  }

  /**
   * As the other.
   *
   * @param links whether it is a terminal that knows links to files
   */
  public ToneStream(OutputStream to, Palette palette, boolean links) {
    this(to, new VisibleStream(to), palette, links);
  }

  private ToneStream(OutputStream to, VisibleStream visible, Palette palette, boolean links) {
    super(visible);
    this.visible = visible;
    this.terminal = to;
    this.palette = palette;
    this.links = links;
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    if (matched == 0 && visible.passes(bytes, from, length)) {
      // most of what is written; a mark begins with a byte that does not pass
      terminal.write(bytes, from, length);
      return;
    }
    int plain = from;
    int end = from + length;
    for (int i = from; i < end; i++) {
      byte b = bytes[i];
      if (matched == 0 && b != BEGIN[0]) {
        continue;
      }
      if (matched == 0) {
        out.write(bytes, plain, i - plain);
      }
      plain = i + 1;
      if (matched < BEGIN.length && b != BEGIN[matched]) {
        giveBack(b);
      } else {
        mark[matched++] = b;
        if (matched == mark.length) {
          matched = 0;
          paint();
        }
      }
    }
    out.write(bytes, plain, end - plain);
  }

  /** What looked like a mark is none; one may begin inside. */
  private void giveBack(byte next) throws IOException {
    byte[] again = Arrays.copyOfRange(mark, 1, matched + 1);
    again[matched - 1] = next;
    matched = 0;
    out.write(mark, 0, 1);
    write(again, 0, again.length);
  }

  private void paint() throws IOException {
    String code = new String(mark, BEGIN.length, CODE, StandardCharsets.UTF_8);
    char meant = code.charAt(0);
    boolean link = FileLink.is(meant);
    String control = !link ? palette.of(meant) : links ? FileLink.control(meant) : "";
    terminal.write(control.getBytes(StandardCharsets.US_ASCII));
  }

  @Override
  public void flush() throws IOException {
    out.flush();
  }

  @Override
  public void close() throws IOException {
    out.write(mark, 0, matched);
    matched = 0;
    super.close();
  }
}
