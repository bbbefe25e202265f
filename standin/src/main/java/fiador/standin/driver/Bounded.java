package fiador.standin.driver;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** A stream that ends with a failure where it is longer than was agreed. */
final class Bounded extends FilterInputStream {
  private long left;

  Bounded(InputStream in, long most) {
    super(in);
    this.left = most;
  }

  @Override
  public int read() throws IOException {
    int one = super.read();
    count(one < 0 ? 0 : 1);
    return one;
  }

  @Override
  public int read(byte[] into, int from, int most) throws IOException {
    int read = super.read(into, from, most);
    count(Math.max(0, read));
    return read;
  }

  private void count(int read) throws IOException {
    left -= read;
    if (left < 0) {
      throw new IOException("the answer is longer than is wanted");
    }
  }
}
