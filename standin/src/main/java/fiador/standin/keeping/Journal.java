package fiador.standin.keeping;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Every statement about access that was carried out, one a line, each on disk before it is
 * answered. What there is is what they make, carried out again from the first.
 */
public final class Journal implements Closeable {
  private static final int VERSION = 1;
  private static final ObjectMapper JSON = JsonMapper.builder().build();

  private final FileChannel channel;
  private final Head head;
  private final List<Entry> entries;

  private Journal(FileChannel channel, Head head, List<Entry> entries) {
    this.channel = channel;
    this.head = head;
    this.entries = entries;
  }

  /**
   * Opens a journal, or begins one.
   *
   * @param fresh the first line of a new one; null where there must be one
   * @throws IOException when it cannot be read, is none, or somebody else has it open
   */
  public static Journal open(Path file, @Nullable Head fresh) throws IOException {
    FileChannel channel =
        fresh == null
            ? FileChannel.open(file, StandardOpenOption.READ, StandardOpenOption.WRITE)
            : FileChannel.open(
                file,
                StandardOpenOption.READ,
                StandardOpenOption.WRITE,
                StandardOpenOption.CREATE_NEW);
    try {
      if (lock(channel) == null) {
        throw new IOException("another stand-in has " + file + " open");
      }
      if (fresh != null) {
        append(channel, new Head(VERSION, fresh.administrator(), fresh.secret(), fresh.engine()));
      }
      return read(channel, file);
    } catch (IOException | RuntimeException wrong) {
      channel.close();
      throw wrong;
    }
  }

  private static @Nullable FileLock lock(FileChannel channel) throws IOException {
    try {
      return channel.tryLock();
    } catch (OverlappingFileLockException here) {
      return null;
    }
  }

  private static Journal read(FileChannel channel, Path file) throws IOException {
    ByteBuffer all = ByteBuffer.allocate(Math.toIntExact(channel.size()));
    channel.position(0);
    while (all.hasRemaining() && channel.read(all) >= 0) {
      // on to the end
    }
    byte[] bytes = all.array();
    List<Entry> entries = new ArrayList<>();
    Head head = null;
    int from = 0;
    int line = 0;
    for (int at = 0; at < bytes.length; at++) {
      if (bytes[at] == '\n') {
        line++;
        try {
          if (head == null) {
            head = JSON.readValue(bytes, from, at - from, Head.class);
          } else {
            entries.add(JSON.readValue(bytes, from, at - from, Entry.class));
          }
        } catch (IOException wrong) {
          throw new IOException(file + ", line " + line + " is not what was written", wrong);
        }
        from = at + 1;
      }
    }
    if (head == null || head.standIn() != VERSION) {
      throw new IOException(file + " is no journal of this version of the stand-in");
    }
    // what was cut off while it was written was never answered
    channel.truncate(from);
    channel.position(from);
    return new Journal(channel, head, entries);
  }

  /** Its first line. */
  public Head head() {
    return head;
  }

  /** All that was carried out before it was opened. */
  public List<Entry> entries() {
    return entries;
  }

  /**
   * Keeps one more; when this returns it is on disk.
   *
   * @throws IOException when it cannot be kept; then it must not be answered
   */
  public void add(Entry entry) throws IOException {
    append(channel, entry);
  }

  private static void append(FileChannel channel, Object line) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    bytes.write(JSON.writeValueAsString(line).getBytes(StandardCharsets.UTF_8));
    bytes.write('\n');
    ByteBuffer buffer = ByteBuffer.wrap(bytes.toByteArray());
    while (buffer.hasRemaining()) {
      channel.write(buffer);
    }
    channel.force(false);
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
