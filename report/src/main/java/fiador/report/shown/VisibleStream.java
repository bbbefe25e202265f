package fiador.report.shown;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * The last door before a terminal or a file: of UTF-8 only what can be seen goes through, with ends
 * of lines and tabs; see {@link Visible}. What is no UTF-8 is a replacement character. Cost: one
 * look at each byte.
 */
public final class VisibleStream extends FilterOutputStream {
  /** Whether a byte goes through as it is, whatever is around it; by its value, unsigned. */
  private static final boolean[] PLAIN = new boolean[256];

  static {
    Arrays.fill(PLAIN, ' ', 0x7f, true);
    PLAIN['\n'] = true;
    PLAIN['\t'] = true;
  }

  private final byte[] pending = new byte[4];
  private int held;
  private int wanted;
  private boolean afterReturn;

  /** Writes to that stream. */
  public VisibleStream(OutputStream to) {
    super(to);
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    int plain = from;
    int end = from + length;
    for (int i = from; i < end; i++) {
      if (!PLAIN[bytes[i] & 0xff] || held > 0 || afterReturn) {
        out.write(bytes, plain, i - plain);
        plain = i + 1;
        odd(bytes[i]);
      }
    }
    out.write(bytes, plain, end - plain);
  }

  /** Whether all of these go through as they are, after what came before. */
  boolean passes(byte[] bytes, int from, int length) {
    int at = from;
    while (at < from + length && PLAIN[bytes[at] & 0xff]) {
      at++;
    }
    return at == from + length && held == 0 && !afterReturn;
  }

  private void odd(byte b) throws IOException {
    if (afterReturn) {
      afterReturn = false;
      out.write((b == '\n' ? "\r" : Visible.written('\r')).getBytes(StandardCharsets.US_ASCII));
    }
    boolean continues = (b & 0xc0) == 0x80;
    if (held > 0 && continues) {
      pending[held++] = b;
      if (held == wanted) {
        release();
      }
      return;
    }
    if (held > 0) {
      release();
    }
    if (b == '\r') {
      afterReturn = true;
    } else if (b >= 0) {
      text(PLAIN[b] ? String.valueOf((char) b) : Visible.written((char) b));
    } else {
      wanted = (b & 0xe0) == 0xc0 ? 2 : (b & 0xf0) == 0xe0 ? 3 : (b & 0xf8) == 0xf0 ? 4 : 1;
      pending[held++] = b;
      if (held == wanted) {
        release();
      }
    }
  }

  private void release() throws IOException {
    String decoded = new String(pending, 0, held, StandardCharsets.UTF_8);
    held = 0;
    text(Visible.of(decoded));
  }

  private void text(String text) throws IOException {
    out.write(text.getBytes(StandardCharsets.UTF_8));
  }

  @Override
  public void flush() throws IOException {
    // a character may come in two pieces with a flush between; a lonely return has been seen whole
    out.flush();
  }

  @Override
  public void close() throws IOException {
    if (held > 0) {
      release();
    }
    super.close();
  }
}
