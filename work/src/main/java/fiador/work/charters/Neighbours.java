package fiador.work.charters;

import fiador.across.Atlas;
import fiador.files.charter.CharterReader;
import fiador.files.ready.ReadySurveys;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds surveys of the other servers to which a foreign table may lead, or from which one may. */
public final class Neighbours {
  private Neighbours() {}

  /**
   * The survey that is asked and those beside it.
   *
   * @param named survey files, folders of such, and charters' folders; where none is named, the
   *     newest surveys of the other servers of the charter
   * @param folder the folder that may be a charter's
   * @throws Refusal when something named is none of that
   */
  public static Atlas around(
      Access home, List<String> named, @Nullable Path folder, ReadySurveys surveys)
      throws Refusal, IOException {
    List<Access> all = new ArrayList<>(List.of(home));
    for (Path file : files(named, folder)) {
      all.add(surveys.read(file));
    }
    return new Atlas(all);
  }

  /**
   * All servers that are known, none of which is asked before others.
   *
   * @param named as for {@link #around}
   * @throws Refusal also when there is no survey at all
   */
  public static Atlas all(List<String> named, Path folder, ReadySurveys surveys)
      throws Refusal, IOException {
    List<Access> all = new ArrayList<>();
    for (Path file : files(named, folder)) {
      all.add(surveys.read(file));
    }
    if (all.isEmpty()) {
      throw new BadInput("no server was surveyed yet; fiador survey does that");
    }
    return new Atlas(all);
  }

  private static List<Path> files(List<String> named, @Nullable Path folder)
      throws BadInput, IOException {
    List<Path> files = new ArrayList<>();
    if (named.isEmpty()
        && folder != null
        && Files.isRegularFile(folder.resolve(CharterReader.ROOT))) {
      files.addAll(in(folder.resolve(".fiador")));
    }
    for (String one : named) {
      Path path = Path.of(one);
      if (Files.isRegularFile(path)) {
        files.add(path);
      } else if (Files.isDirectory(path)) {
        boolean charter = Files.isRegularFile(path.resolve(CharterReader.ROOT));
        List<Path> found = in(charter ? path.resolve(".fiador") : path);
        if (found.isEmpty()) {
          throw new BadInput("--across " + one + ": there are no surveys in that folder");
        }
        files.addAll(found);
      } else {
        throw new BadInput("--across " + one + " is no survey file and no folder of such");
      }
    }
    return files;
  }

  private static List<Path> in(Path folder) throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .filter(file -> file.toString().matches(".*\\.survey\\.jsonl(\\.gz)?"))
          .sorted()
          .toList();
    }
  }
}
