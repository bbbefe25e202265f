package fiador.files.ready;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.LinkOption;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Set;

/**
 * The bytes of a ready form. They are copied out where they are asked for, not mapped: what was
 * checked is then what is used, whoever writes into the file meanwhile, and a file that is cut
 * while it is read is an error like others. A small one is read at once.
 */
final class ReadyBytes {
  private static final Set<OpenOption> HOW =
      Set.of(StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS);

  private static final int SMALL = 1 << 18;

  private final FileChannel channel;
  private final long length;
  private final byte[] whole;

  private ReadyBytes(FileChannel channel, long length, byte[] whole) {
    this.channel = channel;
    this.length = length;
    this.whole = whole;
  }

  /** Opens a file, which stays open as long as it is asked. */
  static ReadyBytes open(Path file) throws IOException {
    FileChannel channel = FileChannel.open(file, HOW);
    try {
      long length = channel.size();
      if (length > SMALL) {
        return new ReadyBytes(channel, length, new byte[0]);
      }
      byte[] whole = read(channel, 0, (int) length);
      channel.close();
      return new ReadyBytes(channel, length, whole);
    } catch (IOException failed) {
      channel.close();
      throw failed;
    }
  }

  long length() {
    return length;
  }

  /**
   * Some of the bytes.
   *
   * @throws EOFException where the file does not go so far
   */
  byte[] read(long from, int count) throws IOException {
    if (from < 0 || count < 0 || from > length - count) {
      throw new EOFException("it ends too early");
    }
    if (length > SMALL) {
      return read(channel, from, count);
    }
    byte[] some = new byte[count];
    System.arraycopy(whole, (int) from, some, 0, count);
    return some;
  }

  private static byte[] read(FileChannel channel, long from, int count) throws IOException {
    ByteBuffer some = ByteBuffer.allocate(count);
    while (some.hasRemaining()) {
      if (channel.read(some, from + some.position()) < 0) {
        throw new EOFException("it ends too early");
      }
    }
    return some.array();
  }

  void close() throws IOException {
    channel.close();
  }
}
