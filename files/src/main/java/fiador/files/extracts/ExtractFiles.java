package fiador.files.extracts;

import io.airlift.compress.zstd.ZstdInputStream;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;

/** The files of a folder of extracts. */
final class ExtractFiles {
  private static final int BUFFER = 1 << 16;

  private final Path folder;

  ExtractFiles(Path folder) {
    this.folder = folder;
  }

  /** Those of a name with {@code *} for any characters, by their names. */
  List<Path> named(String name) throws IOException {
    StringBuilder pattern = new StringBuilder();
    for (String part : name.split("\\*", -1)) {
      pattern.append(pattern.length() == 0 ? "" : ".*").append(Pattern.quote(part));
    }
    // an extract that came packed is the same extract
    Pattern fits = Pattern.compile(pattern + "(\\.gz|\\.zst)?");
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .filter(file -> fits.matcher(file.getFileName().toString()).matches())
          .filter(file -> Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS))
          .sorted()
          .toList();
    }
  }

  static Instant written(Path file) throws IOException {
    return Files.getLastModifiedTime(file).toInstant();
  }

  static Table open(Path file) throws IOException, BrokenRowException {
    InputStream in = new BufferedInputStream(Files.newInputStream(file), BUFFER);
    try {
      String name = file.getFileName().toString();
      if (name.endsWith(".gz")) {
        in = new GZIPInputStream(in, BUFFER);
      } else if (name.endsWith(".zst")) {
        in = new ZstdInputStream(in);
      }
      Reader text =
          new InputStreamReader(
              in,
              StandardCharsets.UTF_8
                  .newDecoder()
                  .onMalformedInput(CodingErrorAction.REPORT)
                  .onUnmappableCharacter(CodingErrorAction.REPORT));
      return new AheadTable(name.contains(".jsonl") ? new JsonTable(text) : new CsvTable(text));
    } catch (IOException | BrokenRowException | RuntimeException failed) {
      in.close();
      throw failed;
    }
  }
}
