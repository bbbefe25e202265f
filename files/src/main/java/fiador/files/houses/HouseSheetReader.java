package fiador.files.houses;

import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.files.yaml.YamlReader;
import fiador.grants.rules.HouseRules;
import fiador.houses.HouseSheet;
import fiador.houses.Reading;
import fiador.houses.Writing;
import java.io.IOException;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads house sheets, and notes all that is wrong with them. */
public final class HouseSheetReader extends Shapes {
  static final Pattern NAME = Pattern.compile("[a-z][a-z0-9_-]{0,39}");

  private static final List<String> SECTIONS =
      List.of("house", "about", "rules", "reading", "writing");

  private HouseSheetReader(Mistakes mistakes) {
    super(mistakes);
  }

  /**
   * A sheet.
   *
   * @param file what the file is called in messages
   * @param text what stands in it
   * @param mistakes told all that is wrong
   * @return null where something is
   */
  public static @Nullable HouseSheet read(String file, String text, Mistakes mistakes)
      throws IOException {
    Yaml tree = YamlReader.read(file, text, mistakes);
    if (tree == null) {
      if (mistakes.isEmpty()) {
        mistakes.add(
            new fiador.changes.wanted.Wanted.Place(file, 1, 1),
            "the file is empty; a house sheet was expected");
      }
      return null;
    }
    HouseSheetReader reader = new HouseSheetReader(mistakes);
    Mapping body = reader.mapping(tree, "a house sheet, which begins with house: NAME");
    HouseSheet sheet = body == null ? null : reader.sheet(body);
    return mistakes.isEmpty() ? sheet : null;
  }

  private @Nullable HouseSheet sheet(Mapping body) {
    String name = "";
    String about = "";
    HouseRules rules = null;
    Reading reading = null;
    Writing writing = Writing.NONE;
    for (String needed : List.of("house", "rules", "reading")) {
      if (body.get(needed) == null) {
        mistakes.add(body.place(), "a house sheet has a section \"" + needed + "\"");
      }
    }
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "house" -> name = name(entry.value());
        case "about" -> {
          Scalar text = scalar(entry.value(), "a sentence");
          about = text == null ? "" : text.text();
        }
        case "rules" -> {
          Mapping section = mapping(entry.value(), "house rules");
          // the sheet's name is known when the rules are: it stands before them, or anywhere
          Yaml called = body.get("house");
          String kind = called instanceof Scalar scalar ? scalar.text() : "";
          rules =
              section == null
                  ? null
                  : new RulesReader(mistakes).read(HouseSheet.PREFIX + kind, section);
        }
        case "reading" -> {
          Mapping section = mapping(entry.value(), "where facts are found");
          reading = section == null ? null : new ReadingSection(mistakes).read(section);
        }
        case "writing" -> {
          Mapping section = mapping(entry.value(), "how statements are written");
          writing = section == null ? writing : new WritingSection(mistakes).read(section);
        }
        default -> unknown(entry.key(), SECTIONS, "section of a house sheet");
      }
    }
    return rules == null || reading == null
        ? null
        : new HouseSheet(name, about, rules, reading, writing);
  }

  private String name(Yaml yaml) {
    Scalar name = scalar(yaml, "the sheet's name");
    if (name != null && !NAME.matcher(name.text()).matches()) {
      mistakes.add(
          name.place(),
          "a sheet's name has small letters, digits, - and _ only, and begins with a letter");
    }
    return name == null ? "" : name.text();
  }
}
