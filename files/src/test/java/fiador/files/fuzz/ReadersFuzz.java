package fiador.files.fuzz;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What the fuzzer calls. */
public final class ReadersFuzz {
  private static final Readers READER = Readers.valueOf(System.getProperty("fiador.reader"));
  private static final Path PLACE = place();

  private ReadersFuzz() {}

  private static Path place() {
    try {
      Path memory = Path.of("/dev/shm");
      return Files.isDirectory(memory)
          ? Files.createTempDirectory(memory, "fuzz")
          : Files.createTempDirectory("fuzz");
    } catch (IOException broken) {
      throw new UncheckedIOException(broken);
    }
  }

  /** One input. */
  public static void fuzzerTestOneInput(byte[] input) {
    READER.tried(input, PLACE);
  }
}
