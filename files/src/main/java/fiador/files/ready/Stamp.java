package fiador.files.ready;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.TimeUnit;

/**
 * What tells a file from what it was before without reading it. Whoever writes into it, or puts
 * another in its place, changes that.
 *
 * @param size its length in bytes
 * @param written when what is in it was last written, in nanoseconds since 1970
 * @param touched when anything about it last changed, likewise; not to be set by anybody, where the
 *     file system has it
 * @param number which file of its disk it is, where the file system says so
 */
record Stamp(long size, long written, long touched, long number) {
  /** That of no file. */
  static final Stamp NONE = new Stamp(0, 0, 0, 0);

  private static final boolean UNIX =
      FileSystems.getDefault().supportedFileAttributeViews().contains("unix");

  /** Two changes within this time may be given the same time by a file system. */
  private static final long TICK_MILLIS = 20;

  private static final long COARSE_TICK_MILLIS = 3_000;

  static Stamp of(Path file) throws IOException {
    if (UNIX) {
      Map<String, Object> known =
          Files.readAttributes(file, "unix:size,lastModifiedTime,ctime,ino");
      return new Stamp(
          get(known, "size", Long.class),
          nanos(get(known, "lastModifiedTime", FileTime.class)),
          nanos(get(known, "ctime", FileTime.class)),
          get(known, "ino", Long.class));
    }
    BasicFileAttributes known = Files.readAttributes(file, BasicFileAttributes.class);
    long written = nanos(known.lastModifiedTime());
    return new Stamp(known.size(), written, nanos(known.creationTime()), 0);
  }

  private static <T> T get(Map<String, Object> known, String name, Class<T> type) {
    return type.cast(Objects.requireNonNull(known.get(name), name));
  }

  private static long nanos(FileTime time) {
    return time.to(TimeUnit.NANOSECONDS);
  }

  /**
   * Waits until whatever is written into the file from now on shows in its stamp.
   *
   * @return whether it does; not where the file has a time that is still to come, or was written a
   *     moment ago on a file system that counts in seconds
   */
  boolean settles() {
    long last = TimeUnit.NANOSECONDS.toMillis(Math.max(written, touched));
    boolean coarse = written % TimeUnit.SECONDS.toNanos(1) == 0;
    long age = System.currentTimeMillis() - last;
    if (coarse || age < 0) {
      return age > COARSE_TICK_MILLIS;
    }
    try {
      Thread.sleep(Math.max(0, TICK_MILLIS - age));
      return true;
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      return false;
    }
  }
}
