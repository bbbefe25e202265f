package fiador.files;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Stops at a line that is longer than any honest one, before it fills the memory. */
public final class LineLimit extends FilterInputStream {
  private static final int LONGEST = 16 << 20;

  private final String file;
  private long line = 1;
  private int length;

  /**
   * Limits a stream.
   *
   * @param file what to call it in the complaint
   */
  public LineLimit(String file, InputStream in) {
    super(in);
    this.file = file;
  }

  @Override
  public int read() throws IOException {
    int b = in.read();
    if (b >= 0) {
      count((byte) b);
    }
    return b;
  }

  @Override
  public int read(byte[] to, int from, int most) throws IOException {
    int read = in.read(to, from, most);
    for (int i = from; i < from + read; i++) {
      count(to[i]);
    }
    return read;
  }

  private void count(byte b) throws IOException {
    if (b == '\n') {
      line++;
      length = 0;
    } else if (++length > LONGEST) {
      throw new IOException(
          file + ":" + line + ": a line is longer than 16 MiB; that is no such file");
    }
  }

  @Override
  public boolean markSupported() {
    return false;
  }
}
