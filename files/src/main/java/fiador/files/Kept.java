package fiador.files;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.nio.file.attribute.UserPrincipal;
import java.util.Map;

/**
 * How files are kept that say who holds what: for their owner alone, under names that tell apart.
 */
public final class Kept {
  private static final boolean POSIX =
      FileSystems.getDefault().supportedFileAttributeViews().contains("posix");

  private static final boolean UNIX =
      FileSystems.getDefault().supportedFileAttributeViews().contains("unix");

  /** The folder of a charter in which surveys, journals and the ledger are kept. */
  private static final String OWN = ".fiador";

  private static final int OTHERS_WRITE = 0022;

  private Kept() {}

  /** What a new file begins with: nobody else reads it. */
  public static FileAttribute<?>[] file() {
    return permissions("rw-------");
  }

  private static FileAttribute<?>[] permissions(String letters) {
    return POSIX
        ? new FileAttribute<?>[] {
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString(letters))
        }
        : new FileAttribute<?>[0];
  }

  /**
   * Makes a folder, and those above it, where there is none; nobody else looks into it. The
   * program's own folder is closed to others even where something else made it.
   */
  public static void folder(Path folder) throws IOException {
    Files.createDirectories(folder, permissions("rwx------"));
    Path name = folder.getFileName();
    if (POSIX && name != null && name.toString().equals(OWN)) {
      try {
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx------"));
      } catch (FileSystemException notOurs) {
        // it belongs to somebody else of a team, who decides who looks into it
      }
    }
  }

  /** Has what was moved into a folder stay there, whatever happens to the machine. */
  public static void settle(Path folder) throws IOException {
    if (POSIX) {
      try (FileChannel entries = FileChannel.open(folder, StandardOpenOption.READ)) {
        entries.force(true);
      }
    }
  }

  /** A file's name for something that may be called anything; no two share one. */
  public static String name(String called) {
    StringBuilder name = new StringBuilder();
    for (byte b : called.getBytes(StandardCharsets.UTF_8)) {
      boolean plain =
          b >= 'a' && b <= 'z'
              || b >= 'A' && b <= 'Z'
              || b >= '0' && b <= '9'
              || "_.-".indexOf(b) >= 0;
      name.append(plain ? String.valueOf((char) b) : String.format("%%%02x", b & 0xff));
    }
    return name.toString();
  }

  /**
   * Whether another file is as good as the first: it belongs to the same account, to whoever runs
   * this or to the machine's administrator, and nobody else may write it who may not write the
   * first. In a folder where everybody may make files, it could be anybody's.
   */
  public static boolean trusts(Path file, Path other) throws IOException {
    if (!UNIX) {
      return true;
    }
    Map<String, Object> one = Files.readAttributes(file, "unix:uid,mode");
    Map<String, Object> second =
        Files.readAttributes(other, "unix:uid,mode", LinkOption.NOFOLLOW_LINKS);
    int more = OTHERS_WRITE & (int) second.get("mode") & ~(int) one.get("mode");
    int owner = (int) second.get("uid");
    boolean known = owner == 0 || owner == (int) one.get("uid") || isMine(other);
    return more == 0 && known;
  }

  /**
   * Whether it belongs to whoever runs this. Cost: looks a name up, which may have to be asked for
   * over the network.
   */
  public static boolean isMine(Path file) throws IOException {
    if (!UNIX) {
      return true;
    }
    UserPrincipal owner = Files.getOwner(file, LinkOption.NOFOLLOW_LINKS);
    return owner.getName().equals(System.getProperty("user.name"));
  }
}
