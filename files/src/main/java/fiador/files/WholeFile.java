package fiador.files;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/** Writes a file whole or not at all: beside its place first, then moved there. */
public final class WholeFile {
  private WholeFile() {}

  /** Writes the contents. */
  @FunctionalInterface
  public interface Contents {
    /** Writes all of it to the stream, which stays open. */
    void writeTo(OutputStream out) throws IOException;
  }

  /** Writes a text. */
  public static void write(Path file, String text) throws IOException {
    write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  /** Writes {@code file}; where that fails or is interrupted, what was there before stays. */
  public static void write(Path file, Contents contents) throws IOException {
    // a link stays a link, and a device or a pipe is never replaced by a file
    Path target = Files.isSymbolicLink(file) ? file.toRealPath() : file;
    if (Files.exists(target) && !Files.isRegularFile(target)) {
      throw new FileSystemException(file.toString(), null, "is no ordinary file");
    }
    Path folder = target.toAbsolutePath().getParent();
    Kept.folder(folder);
    Path beside = Files.createTempFile(folder, "." + target.getFileName(), ".part");
    try {
      try (OutputStream out =
          new BufferedOutputStream(
              Files.newOutputStream(beside, StandardOpenOption.WRITE), 1 << 16)) {
        contents.writeTo(out);
      }
      try (FileChannel channel = FileChannel.open(beside, StandardOpenOption.WRITE)) {
        channel.force(true);
      }
      Files.move(
          beside, target, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
      Kept.settle(folder);
    } finally {
      Files.deleteIfExists(beside);
    }
  }
}
