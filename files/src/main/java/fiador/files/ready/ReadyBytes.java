package fiador.files.ready;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.MappedByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.LinkOption;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The bytes of a ready form. They are mapped into memory, because a list of names touches thousands
 * of pieces, and copied out before they are checked: what was checked is then what is used, whoever
 * writes into the file meanwhile.
 */
final class ReadyBytes {
  private static final Set<OpenOption> HOW =
      Set.of(StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS);

  private final FileChannel channel;
  private final long length;

  /** Null for a file that is too long to be mapped in one. */
  private final @Nullable MappedByteBuffer mapped;

  private ReadyBytes(FileChannel channel, long length, @Nullable MappedByteBuffer mapped) {
    this.channel = channel;
    this.length = length;
    this.mapped = mapped;
  }

  /** Opens a file, which stays open as long as it is asked. */
  static ReadyBytes open(Path file) throws IOException {
    return open(file, Integer.MAX_VALUE);
  }

  /** As the other, for tests: a file longer than that is not mapped. */
  static ReadyBytes open(Path file, long longest) throws IOException {
    FileChannel channel = FileChannel.open(file, HOW);
    try {
      long length = channel.size();
      boolean fits = length <= longest;
      return new ReadyBytes(
          channel, length, fits ? channel.map(FileChannel.MapMode.READ_ONLY, 0, length) : null);
    } catch (IOException failed) {
      channel.close();
      throw failed;
    }
  }

  long length() {
    return length;
  }

  /**
   * A copy of some of the bytes. Where the file was cut meanwhile they are any bytes, or there is
   * an error.
   *
   * @throws EOFException where the file does not go so far
   */
  byte[] read(long from, int count) throws IOException {
    if (from < 0 || count < 0 || from > length - count) {
      throw new EOFException("it ends too early");
    }
    byte[] some = new byte[count];
    if (mapped != null) {
      try {
        mapped.get((int) from, some);
      } catch (InternalError cut) {
        throw new EOFException("it was cut while it was read");
      }
      return some;
    }
    ByteBuffer into = ByteBuffer.wrap(some);
    while (into.hasRemaining()) {
      if (channel.read(into, from + into.position()) < 0) {
        throw new EOFException("it ends too early");
      }
    }
    return some;
  }

  void close() throws IOException {
    channel.close();
  }
}
