package fiador.work.charters;

import fiador.across.Atlas;
import fiador.files.charter.CharterReader;
import fiador.files.ready.ReadySurveys;
import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds surveys of the other servers to which a foreign table may lead, or from which one may. */
public final class Neighbours {
  private final ReadySurveys surveys;
  private final Consumer<String> notes;

  /**
   * @param surveys opens survey files
   * @param notes told which surveys nobody named are left out, because they cannot be read
   */
  public Neighbours(ReadySurveys surveys, Consumer<String> notes) {
    this.surveys = surveys;
    this.notes = notes;
  }

  /**
   * The survey that is asked and those beside it.
   *
   * @param named survey files, folders of such, and charters' folders; where none is named, the
   *     newest surveys of the other servers of the charter
   * @param folder the folder that may be a charter's
   * @throws Refusal when something named is none of that
   */
  public Atlas around(Access home, List<String> named, @Nullable Path folder)
      throws Refusal, IOException {
    List<Access> all = new ArrayList<>(List.of(home));
    // it need not be read a second time
    Path own = folder == null ? null : Surveys.file(folder, home.about().server());
    all.addAll(found(named, folder, own));
    return new Atlas(all);
  }

  /**
   * All servers that are known, none of which is asked before others.
   *
   * @param named as for {@link #around}
   * @throws Refusal also when there is no survey at all
   */
  public Atlas all(List<String> named, Path folder) throws Refusal, IOException {
    List<Access> all = found(named, folder, null);
    if (all.isEmpty()) {
      throw new BadInput("no server was surveyed yet; fiador survey does that");
    }
    return new Atlas(all);
  }

  private List<Access> found(List<String> named, @Nullable Path folder, @Nullable Path but)
      throws Refusal, IOException {
    List<Access> found = new ArrayList<>();
    for (String one : named) {
      for (Path file : files(one)) {
        found.add(surveys.read(file));
      }
    }
    List<Path> unnamed = List.of();
    if (named.isEmpty()
        && folder != null
        && Files.isRegularFile(folder.resolve(CharterReader.ROOT))) {
      unnamed = in(folder.resolve(".fiador"));
    }
    for (Path file : unnamed) {
      if (file.equals(but)) {
        continue;
      }
      try {
        found.add(surveys.read(file));
      } catch (SurveyException broken) {
        // another server's survey is no reason to say nothing of this one
        notes.accept(
            "left out, so what leads there or comes from there is not known: "
                + broken.getMessage());
      }
    }
    return found;
  }

  private static List<Path> files(String named) throws BadInput, IOException {
    Path path = Path.of(named);
    if (Files.isRegularFile(path)) {
      return List.of(path);
    } else if (!Files.isDirectory(path)) {
      throw new BadInput("--across " + named + " is no survey file and no folder of such");
    }
    boolean charter = Files.isRegularFile(path.resolve(CharterReader.ROOT));
    List<Path> found = in(charter ? path.resolve(".fiador") : path);
    if (found.isEmpty()) {
      throw new BadInput("--across " + named + ": there are no surveys in that folder");
    }
    return found;
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
