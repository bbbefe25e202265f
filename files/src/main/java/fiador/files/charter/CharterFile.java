package fiador.files.charter;

import fiador.changes.wanted.Wanted.Place;
import fiador.files.houses.HouseSheets;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.YamlReader;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * A file of a charter.
 *
 * @param name its path under the charter's folder
 * @param text what stands in it
 */
record CharterFile(String name, String text) {
  static final int LARGEST = YamlReader.LARGEST;

  /** Whether it is a house sheet, which lies beside a charter and is no part of it. */
  boolean isSheet() {
    return isSheet(name);
  }

  private static boolean isSheet(String name) {
    return name.endsWith(HouseSheets.ENDING);
  }

  /**
   * The files of a charter and the house sheets beside it, by the order of their paths.
   *
   * @param mistakes told of those that cannot be read, which are left out
   */
  static List<CharterFile> in(Path folder, Mistakes mistakes) throws IOException {
    List<CharterFile> all = new ArrayList<>();
    for (Path file : paths(folder)) {
      CharterFile read = read(file, folder.relativize(file).toString(), mistakes);
      if (read != null) {
        all.add(read);
      }
    }
    return all;
  }

  private static List<Path> paths(Path folder) throws IOException {
    Predicate<Path> hidden = file -> folder.relativize(file).toString().startsWith(".");
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(hidden.negate())
          .filter(file -> file.toString().endsWith(".yaml"))
          .filter(Files::isRegularFile)
          .filter(file -> !isOfAnother(folder, file))
          .sorted()
          .toList();
    }
  }

  /** A folder inside that has a root of its own is a charter of its own. */
  private static boolean isOfAnother(Path folder, Path file) {
    for (Path at = file.getParent(); at != null && !at.equals(folder); at = at.getParent()) {
      if (Files.isRegularFile(at.resolve(CharterReader.ROOT))) {
        return true;
      }
    }
    return false;
  }

  private static CharterFile read(Path file, String name, Mistakes mistakes) throws IOException {
    // what is wrong with a sheet matters where a server is of that kind
    Mistakes heard = isSheet(name) ? new Mistakes() : mistakes;
    Place start = new Place(name, 1, 1);
    if (Files.size(file) > LARGEST) {
      heard.add(start, "the file is larger than 16 MiB");
      return null;
    }
    try {
      ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(file));
      return new CharterFile(name, StandardCharsets.UTF_8.newDecoder().decode(bytes).toString());
    } catch (CharacterCodingException notUtf8) {
      heard.add(start, "the file is not UTF-8");
      return null;
    }
  }
}
