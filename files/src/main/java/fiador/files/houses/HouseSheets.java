package fiador.files.houses;

import fiador.changes.wanted.Wanted.Place;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.YamlReader;
import fiador.houses.HouseSheet;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Finds house sheets: in the folder at hand, or among those that come along. */
public final class HouseSheets {
  /** How the file of a sheet is called behind its name. */
  public static final String ENDING = ".house.yaml";

  /** The sheets that come along, in the order of the alphabet. */
  public static final List<String> SHIPPED = names();

  private HouseSheets() {}

  /** Their names stand beside them, so that no code names a kind of server. */
  private static List<String> names() {
    try (InputStream in = HouseSheets.class.getResourceAsStream("/fiador/houses/names")) {
      String all = in == null ? "" : new String(in.readAllBytes(), StandardCharsets.UTF_8);
      return all.lines().filter(name -> !name.isBlank()).toList();
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }

  /**
   * The sheet of a name; one in the folder comes before one that comes along.
   *
   * @param mistakes told when there is none, or what is wrong with it
   * @param asked where somebody asks for it
   */
  public static @Nullable HouseSheet find(Path folder, String name, Mistakes mistakes, Place asked)
      throws IOException {
    if (!HouseSheetReader.NAME.matcher(name).matches()) {
      mistakes.add(asked, "\"" + name + "\" is no name of a house sheet");
      return null;
    }
    Path file = folder.resolve(name + ENDING);
    HouseSheet sheet;
    if (Files.isRegularFile(file)) {
      sheet = read(file, mistakes);
    } else if (SHIPPED.contains(name)) {
      sheet = shipped(name, mistakes);
    } else {
      mistakes.add(
          asked,
          "there is no house sheet "
              + name
              + ": no file "
              + file
              + ", and those that come along are "
              + String.join(", ", SHIPPED));
      return null;
    }
    if (sheet != null && !sheet.name().equals(name)) {
      mistakes.add(asked, file + " is the sheet of " + sheet.name() + ", not of " + name);
      return null;
    }
    return sheet;
  }

  /** The sheet in a file. */
  public static @Nullable HouseSheet read(Path file, Mistakes mistakes) throws IOException {
    return read(file.toString(), Files.readAllBytes(file), mistakes);
  }

  /**
   * A sheet that comes along.
   *
   * @throws IllegalArgumentException when there is none of that name
   */
  public static @Nullable HouseSheet shipped(String name, Mistakes mistakes) throws IOException {
    String file = name + ENDING;
    try (InputStream in = HouseSheets.class.getResourceAsStream("/fiador/houses/" + file)) {
      if (in == null) {
        throw new IllegalArgumentException("no house sheet " + name + " comes along");
      }
      return read(file, in.readAllBytes(), mistakes);
    }
  }

  /**
   * The text of a sheet that comes along.
   *
   * @throws IllegalArgumentException when there is none of that name
   */
  public static String text(String name) throws IOException {
    try (InputStream in =
        HouseSheets.class.getResourceAsStream("/fiador/houses/" + name + ENDING)) {
      if (in == null) {
        throw new IllegalArgumentException("no house sheet " + name + " comes along");
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  private static @Nullable HouseSheet read(String file, byte[] bytes, Mistakes mistakes)
      throws IOException {
    if (bytes.length > YamlReader.LARGEST) {
      mistakes.add(new Place(file, 1, 1), "the file is longer than any house sheet");
      return null;
    }
    try {
      String text = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
      return HouseSheetReader.read(file, text, mistakes);
    } catch (CharacterCodingException wrong) {
      mistakes.add(new Place(file, 1, 1), "the file is not in UTF-8");
      return null;
    }
  }
}
