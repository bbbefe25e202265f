package fiador.files.charter;

import fiador.changes.wanted.Wanted;
import fiador.files.Kept;
import fiador.files.WholeFile;
import fiador.files.records.RecordReader;
import fiador.files.records.RecordWriter;
import fiador.files.yaml.Yaml;
import java.io.File;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.CodeSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.zip.CRC32C;

/**
 * Charters that were read and found right, kept so that the next command need not understand them
 * again. They lie in the cache folder of the user, and not beside the charter: what comes along
 * with somebody's repository must not say what its charter means.
 *
 * <p>One is believed where every file of the charter is letter by letter what it was, the program
 * is the same build, the checksum is right, and nobody else may have written it. All else is as if
 * nothing were kept. How to reach servers, which takes secrets from the environment, is kept as it
 * is written and read each time.
 */
final class KeptCharters {
  private static final int MOST = 60;
  private static final String ENDING = ".charter";

  private final Path base;
  private final Path folder;
  private final String build;

  /**
   * A charter as it is kept.
   *
   * @param build which build of the program read it
   * @param files all it was read from
   * @param connections the sections with servers and ledger
   * @param charter without these
   */
  record Entry(
      String build, List<CharterFile> files, List<Yaml.Entry> connections, Charter charter) {}

  /**
   * Those of a user.
   *
   * @param base where the user's programs keep such things; null for keeping nothing
   * @param build which build of the program this is
   */
  KeptCharters(Path base, String build) {
    this.base = base;
    this.folder = base == null ? null : base.resolve("fiador").resolve("charters");
    this.build = build;
  }

  /** Those of the user; none for a program that is no release and has no home. */
  static KeptCharters ofTheUser() {
    String build = build(KeptCharters.class) + build(Wanted.class);
    String cache = System.getenv("XDG_CACHE_HOME");
    String home = System.getenv("HOME");
    boolean own = cache != null && new File(cache).isAbsolute();
    if (build.contains("?") || !own && (home == null || !new File(home).isAbsolute())) {
      return new KeptCharters(null, "");
    }
    return new KeptCharters(own ? Path.of(cache) : Path.of(home, ".cache"), build);
  }

  /** What tells the file apart that a class is from; a question mark where it is in none. */
  private static String build(Class<?> type) {
    CodeSource source = type.getProtectionDomain().getCodeSource();
    try {
      File file = source == null ? null : new File(source.getLocation().toURI());
      return file == null || !file.isFile()
          ? "?"
          : file + " " + file.length() + " " + file.lastModified() + ";";
    } catch (URISyntaxException | IllegalArgumentException elsewhere) {
      // such as a share of another machine
      return "?";
    }
  }

  /** What is kept of a charter; null where nothing is, or it is of other files. */
  Entry find(Path charter, List<CharterFile> files) {
    try {
      Path file = folder == null ? null : file(charter);
      if (file == null || !Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
        return null;
      }
      if (!isSafe(file)) {
        return null;
      }
      ByteBuffer all = ByteBuffer.wrap(Files.readAllBytes(file));
      long sum = all.remaining() < Long.BYTES ? -1 : all.getLong();
      if (sum != sum(all.slice())) {
        return null;
      }
      Entry entry = RecordReader.read(all, Entry.class);
      return entry.build().equals(build) && entry.files().equals(files) ? entry : null;
    } catch (IOException unreadable) {
      return null;
    }
  }

  /** Whether nobody else decides what stands there; with the home of somebody else they may. */
  private boolean isSafe(Path file) throws IOException {
    boolean safe = Kept.isMine(base);
    for (Path at = file; safe && !at.equals(base); at = at.getParent()) {
      safe = Kept.trusts(at.getParent(), at);
    }
    return safe;
  }

  /** Keeps one; where that does not work, the next command reads it again. */
  void keep(Path charter, List<CharterFile> files, List<Yaml.Entry> connections, Charter read) {
    if (folder == null) {
      return;
    }
    Charter apart =
        new Charter(
            read.estate(),
            Map.of(),
            Charter.LedgerEntry.USUAL,
            read.wanted(),
            read.proofs(),
            read.expected(),
            read.reviewKeys());
    try {
      byte[] bytes = RecordWriter.write(new Entry(build, files, connections, apart));
      byte[] head = ByteBuffer.allocate(Long.BYTES).putLong(sum(ByteBuffer.wrap(bytes))).array();
      Kept.folder(folder);
      WholeFile.write(
          file(charter),
          out -> {
            out.write(head);
            out.write(bytes);
          });
      tidy();
    } catch (IOException unwritable) {
      // a full disk or a folder of somebody else is no reason to fail
    }
  }

  private Path file(Path charter) {
    String path = charter.toAbsolutePath().normalize().toString();
    return folder.resolve(Integer.toHexString(path.hashCode()) + ENDING);
  }

  private static long sum(ByteBuffer bytes) {
    CRC32C sum = new CRC32C();
    sum.update(bytes);
    return sum.getValue();
  }

  /** Folders of charters come and go: those not used for longest make room. */
  private void tidy() throws IOException {
    List<Path> all = new ArrayList<>();
    try (Stream<Path> files = Files.list(folder)) {
      files.filter(file -> file.toString().endsWith(ENDING)).forEach(all::add);
    }
    all.sort(Comparator.comparingLong((Path file) -> file.toFile().lastModified()).reversed());
    for (Path old : all.subList(Math.min(MOST, all.size()), all.size())) {
      Files.deleteIfExists(old);
    }
  }
}
